// The state of this page, and its exchange with the server: one request at a time, in order.
const form = document.getElementById("bench");
const kept = document.getElementById("kept");

export const state = {
  left: 1, top: 1, anchor: "A1", focus: "A1",
  writing: "", text: null, caret: 0, flipped: false,
  source: "", target: "", landing: "", step: "", view: "values",
};
export let scene = null;

const queue = [];
const listeners = [];
let running = false;
let version = 0;

export function onScene(listener) {
  listeners.push(listener);
}

// Changes the state; what the server answers to older states is then drawn, but not adopted.
export function set(changes) {
  Object.assign(state, changes);
  version += 1;
}

// Asks the server to show the present state; several such wishes become one.
export function show(wish = {}) {
  const waiting = queue.at(-1);
  if (waiting?.action === "show") Object.assign(waiting.wish, wish);
  else queue.push({ action: "show", wish });
  return run();
}

// Asks the server to do something, with the state that the requests before it lead to.
export function act(action, wish = {}) {
  queue.push({ action, wish });
  return run();
}

// The same for something that is no longer in the state when its turn comes.
export function actNow(action, wish = {}) {
  queue.push({ action, wish, state: { ...state }, version });
  return run();
}

async function run() {
  if (running) return;
  running = true;
  form.dataset.busy = "yes";
  while (queue.length) await send(queue.shift());
  running = false;
  delete form.dataset.busy;
}

async function send(request) {
  const sent = request.state ?? { ...state };
  const sentVersion = request.version ?? version;
  const grid = document.getElementById("grid");
  const values = {
    ...sent, ...request.wish,
    revision: scene?.revision ?? 0, width: grid.clientWidth, height: Math.max(grid.clientHeight - 30, 30),
  };
  for (const key of Object.keys(values)) if (values[key] === null) delete values[key];
  if (request.action !== "show") kept.textContent = "keeping …";
  const answered = await post(form.dataset.at + request.action, values);
  kept.classList.toggle("not", !answered);
  kept.textContent = answered ? "all changes kept" : "not kept";
  if (!answered) {
    if (sent.text !== null && state.text === null) set({ writing: sent.writing, text: sent.text, anchor: sent.anchor, focus: sent.focus });
    for (const listener of listeners) listener({ adopted: true });
    return;
  }
  scene = JSON.parse(document.getElementById("scene").dataset.scene);
  const busyElsewhere = sentVersion !== version && state.text !== null;
  const adopted = sentVersion === version || (scene.insists && !busyElsewhere);
  if (adopted) Object.assign(state, scene.state);
  else if (scene.insists && sent.text !== null) tell(`${notice()} What was typed into ${sent.writing}: ${sent.text.slice(0, 300)}`);
  for (const listener of listeners) listener({ adopted });
}

function post(url, values) {
  return new Promise((resolve) => {
    const done = (event) => {
      form.removeEventListener("htmx:afterRequest", done);
      if (!event.detail.xhr?.status) tell("The server cannot be reached. What you typed is still here; try again when it is back.");
      resolve(event.detail.successful === true);
    };
    form.addEventListener("htmx:afterRequest", done);
    // What went wrong is told by the event above.
    htmx.ajax("POST", url, { source: form, target: form, swap: "none", values }).catch(() => {});
  });
}

function notice() {
  return document.getElementById("notice").textContent.trim();
}

export function tell(text) {
  const said = document.createElement("p");
  said.className = "notice problem";
  said.setAttribute("role", "alert");
  said.textContent = text;
  document.getElementById("notice").replaceChildren(said);
}

// Another page changed the workbook: show its newer revision.
new EventSource(form.dataset.news).addEventListener("message", (event) => {
  if (scene && Number(event.data) > scene.revision) show();
});

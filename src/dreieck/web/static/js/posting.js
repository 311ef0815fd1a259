// What is entered on a page with forms stays there, and survives a reload, until the server can be
// reached: it is sent then by itself. The workbench has its outbox instead.
import { pause } from "./line.js";

const store = `entered ${location.pathname}`;

async function isReached() {
  try {
    return (await fetch("/healthz", { cache: "no-store" })).ok;
  } catch {
    return false;
  }
}

document.addEventListener("submit", async (event) => {
  const { target: form, submitter } = event;
  const isPlain = form.method === "post" && form.enctype !== "multipart/form-data";
  if (event.defaultPrevented || !isPlain || form.matches("[hx-post], [data-form], .sign-in"))
    return;
  if (form.dataset.sent === "yes") return;
  event.preventDefault();
  if (form.dataset.sent) return;
  form.dataset.sent = "waits";
  const word = document.createElement("p");
  for (let tries = 0; !(await isReached()); tries += 1) {
    remember(form);
    tell(word, form);
    await pause(tries);
  }
  word.remove();
  sessionStorage.removeItem(store);
  form.dataset.sent = "yes";
  form.requestSubmit(submitter);
  // Who comes back to the page by the history can send it again.
  delete form.dataset.sent;
});

function tell(word, form) {
  word.className = "notice problem";
  word.setAttribute("role", "alert");
  word.textContent =
    "The server cannot be reached. What you entered is still here, and is sent as soon as it is back.";
  if (!word.isConnected) form.before(word);
}

function remember(form) {
  const fields = [...new FormData(form)].filter(([, value]) => typeof value === "string");
  sessionStorage.setItem(store, JSON.stringify({ form: place(form), fields }));
}

function place(form) {
  return [...document.forms].indexOf(form);
}

const left = JSON.parse(sessionStorage.getItem(store) ?? "null");
for (const [name, value] of left?.fields ?? []) {
  const field = document.forms[left.form]?.elements[name];
  if (!field || field.type === "hidden") continue;
  if (field.type === "checkbox") field.checked = true;
  else field.value = value;
}
sessionStorage.removeItem(store);

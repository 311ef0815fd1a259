// As much of the workbench's page as its modules ask for when they are loaded, and a server that the
// test plays itself.
import { JSDOM } from "jsdom";

const EFFECTS = { moves: ["enter", "jump"], rehearses: ["stretch"], rewrites: ["switch"] };
const BODY = `
  <form id="page-state" data-at="/workbooks/1/sheets/1/act/" data-pages="/workbooks/1/sheets/"
        data-news="/news" data-sheet="1" data-revision="7"></form>
  <span id="kept">all changes kept</span>
  <section id="outbox"></section>
  <div id="notice"></div>
  <div id="scene"></div>
  <div class="line-chips"></div><textarea id="desk-line"></textarea>
  <div id="grid">
    <svg class="underlay"></svg>
    <table><tr><td id="active-cell" tabindex="0"></td></tr></table>
    <svg class="overlay"></svg>
    <div id="cell-entry"><textarea id="cell-line"></textarea></div>
  </div>`;

const AXIS = { lines: [{ number: 1, size: 60 }], fixed: 0, before: [] };
// What a picture shows where the test does not say.
const SCENE = { picture: 1, cells: [], charts: [], chips: [], text: "", columns: AXIS, rows: AXIS };

// Opens the page; `kept` is what the browser remembers from before.
export function openPage(kept = {}) {
  const { window } = new JSDOM(BODY, { url: "http://localhost/workbooks/1/sheets/1" });
  const { document, localStorage } = window;
  document.getElementById("page-state").dataset.effects = JSON.stringify(EFFECTS);
  for (const [name, value] of Object.entries(kept)) localStorage.setItem(name, value);
  Object.assign(globalThis, {
    window,
    document,
    localStorage,
    DOMParser: window.DOMParser,
    EventSource: class extends EventTarget {},
    ResizeObserver: class {
      observe() {}
    },
    addEventListener: window.addEventListener.bind(window),
    htmx: new Server(document),
  });
  return window;
}

// Stands for the sending of requests: the test answers them one after the other.
class Server {
  constructor(document) {
    this.form = document.getElementById("page-state");
    this.scene = document.getElementById("scene");
    this.asked = [];
  }

  ajax(method, url, { values }) {
    this.asked.push({ action: url.split("/").at(-1), values });
    return Promise.resolve();
  }

  trigger() {}

  // What waits for an answer now.
  get open() {
    return this.asked.at(-1);
  }

  // Answers with the state that was sent, changed by what the action leads to.
  async answer(led = {}, scene = {}) {
    const { values } = this.open;
    const revision = scene.revision ?? Number(values.revision);
    const state = { ...values, text: values.text ?? null, ...led };
    const made = { ...SCENE, began: revision, revision, ...scene, state };
    this.scene.dataset.scene = JSON.stringify(made);
    await this.#end({ status: 200 }, true);
  }

  refuse(says, status = 422) {
    return this.#end({ status, responseText: says }, false);
  }

  // The line is cut before an answer comes.
  fail() {
    return this.#end({ status: 0 }, false);
  }

  async #end(xhr, successful) {
    const { CustomEvent } = window;
    const detail = { xhr, successful };
    this.form.dispatchEvent(new CustomEvent("htmx:afterRequest", { detail }));
    await new Promise(setImmediate);
  }
}

// Copy, cut and paste. What was copied here is remembered as an area, for all pages; the system's
// clipboard gets the cells as text, and if it holds another text by then, that one is pasted.
import { act, knownRevision, whenAnswered } from "./exchange.js";
import { refusal, tell } from "./notice.js";
import { selected, set, state } from "./state.js";
import { holdPaste } from "./holding.js";
import { activeCell, writingNow } from "./writing.js";

const form = document.getElementById("page-state");
const workbook = form.dataset.at.split("/")[2];

export async function copy(cut) {
  const clip = {
    workbook,
    sheet: state.sheet,
    area: selected(),
    revision: knownRevision(),
    cut,
    text: "",
  };
  // The text comes from the server, so the clipboard is handed a promise of it.
  const text = fetch(`${form.dataset.pages}${state.sheet}/text?area=${clip.area}`).then(
    async (answer) => {
      if (!answer.ok) throw new Error(refusal(await answer.text()));
      return answer.text();
    },
  );
  localStorage.setItem("clip", JSON.stringify(clip));
  set({ copied: `${state.sheet} ${clip.area}` });
  act("show");
  try {
    clip.text = await text;
    localStorage.setItem("clip", JSON.stringify(clip));
    await navigator.clipboard.writeText(clip.text);
  } catch (problem) {
    await whenAnswered();
    if (!clip.text) tell(`${problem.message} It can still be pasted here.`);
  }
}

// Pastes what a button asks for: a browser that does not tell its clipboard gives what was copied here.
export async function pasteByButton() {
  paste(await navigator.clipboard.readText().catch(() => ""));
}

function paste(text) {
  const clip = JSON.parse(localStorage.getItem("clip") ?? "null");
  const same = clip && (!text || text.replaceAll("\r", "") === clip.text || !clip.text);
  if (!same) return act("paste", { pasted: text });
  act("paste", asClip(clip));
  if (clip.cut) forget();
  else set({ copied: "" });
}

// Pastes once more what was pasted just now, but only a part of it.
export function pasteAs(what) {
  const clip = JSON.parse(localStorage.getItem("clip") ?? "null");
  if (clip) act("paste-as", { ...asClip(clip), what });
}

// What was copied may stand elsewhere now.
export function forget() {
  localStorage.removeItem("clip");
  set({ copied: "" });
}

function asClip(clip) {
  return {
    clip_workbook: clip.workbook,
    clip_sheet: clip.sheet,
    clip_revision: clip.revision ?? -1,
    clip_area: clip.area,
    clip_cut: clip.cut,
  };
}

function ours() {
  const here = document.activeElement;
  return (
    !writingNow() &&
    !state.target &&
    (here === activeCell || here === document.body) &&
    !document.querySelector("dialog[open]")
  );
}

function onOurs(name, does) {
  document.addEventListener(name, (event) => {
    if (!ours()) return;
    event.preventDefault();
    does(event);
  });
}

// What is pasted before the server's word on the keys before it keeps its place among them.
document.addEventListener(
  "paste",
  (event) => {
    if (!holdPaste(event.clipboardData?.getData("text/plain") ?? "", paste)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
  },
  true,
);
onOurs("copy", () => copy(false));
onOurs("cut", () => copy(true));
onOurs("paste", (event) => paste(event.clipboardData?.getData("text/plain") ?? ""));

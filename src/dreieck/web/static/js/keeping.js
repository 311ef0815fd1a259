// Tells how much is not kept yet, and lists what waits for a server that is not there, and what was
// refused: each piece can be taken out, and sent again.
import { areaText, cell, span } from "./address.js";
import { entryOf, notKept, onAsked, onScene, sendAgain, takeOut } from "./exchange.js";
import { isDown, onLine, tryNow } from "./line.js";

const kept = document.getElementById("kept");
const box = document.getElementById("outbox");

// What the list was drawn from last: it is said aloud, so it is not drawn anew without need.
let drawnFrom = "[]";

function draw() {
  const { waiting, refused } = notKept();
  kept.textContent = said(waiting.length, refused.length);
  kept.classList.toggle("not", isDown() || refused.length > 0);
  const listed = [...refused, ...(isDown() ? waiting : [])].map(({ piece }) => piece);
  if (JSON.stringify(listed) === drawnFrom) return;
  drawnFrom = JSON.stringify(listed);
  const rows = [...refused.map(refusedRow), ...(isDown() ? waiting.map(waitingRow) : [])];
  box.hidden = !rows.length;
  box.replaceChildren(
    ...(isDown() && waiting.length ? [unreached(waiting.length)] : []),
    list(rows),
  );
}

function said(waiting, refused) {
  if (refused) return waiting ? `${refused} not kept, ${waiting} wait` : `${refused} not kept`;
  if (!waiting) return "all changes kept";
  return isDown() ? `${waiting} ${waiting === 1 ? "waits" : "wait"}` : `keeping ${waiting} …`;
}

function unreached(count) {
  const line = make("p", "The server cannot be reached. ");
  line.append(
    count === 1 ? "This is kept here" : `These ${count} are kept here`,
    ", and sent as soon as it is back. ",
    button("Try now", tryNow),
  );
  return line;
}

function list(rows) {
  const made = make("ul");
  made.append(...rows);
  return made;
}

function waitingRow(piece) {
  return row(piece, "", [button("Take out", () => takeOut(piece.piece))]);
}

function refusedRow(piece) {
  return row(piece, piece.why, [
    button("Send again", () => sendAgain(piece.piece)),
    button("Take out", () => takeOut(piece.piece)),
  ]);
}

function row(piece, why, buttons) {
  const made = make("li");
  const entry = entryOf(piece);
  const does = entry ? `${entry.cell}: ` : doesWhat(piece);
  made.append(make("b", does));
  if (entry) made.append(make("code", entry.text.slice(0, 300)));
  if (why) made.append(make("span", ` ${why}`));
  made.append(...buttons);
  return made;
}

// What is no entry is told by what was asked for, and where.
function doesWhat({ action, state }) {
  const said = action.replaceAll("-", " ");
  if (!state) return said;
  return `${said}, at ${areaText(span(cell(state.anchor), cell(state.focus)))}`;
}

function button(text, does) {
  const made = make("button", text);
  made.type = "button";
  made.className = "btn btn-sm btn-outline-primary";
  made.addEventListener("click", does);
  return made;
}

function make(name, text = "") {
  const made = document.createElement(name);
  made.textContent = text;
  return made;
}

onScene(draw);
onAsked(draw);
onLine(draw);

// What a page takes of the state that an answer brings. The hands may have gone on since it was
// asked for: what they did is kept, and what the action led to is taken as far as both go together.
// docs/exchange.md draws it; nothing here touches the page.
import { areaText, cell, span } from "./address.js";

// `request` tells what was asked (`action`, its own `state` where it took one along, and the times
// when the hands `asked`, when the state was `sent`, and when the hands had `left` it), `does` the
// effects of its action, `sent` the state that was sent, `now` the state by now, `times` what the
// hands did when, `answer` the scene that came.
export function adoption({ request, does, sent, now, times, answer }) {
  const { insists, refused, state: led } = answer;
  const wentOn = times.now !== request.sent;
  const began = begunSince({ request, does, now, times });
  const writes = now.text !== null;
  // Nothing that was refused is opened again under hands that are elsewhere by now.
  const isBusy = refused ? times.now !== (request.left ?? request.sent) : wentOn && writes;
  if ((!wentOn && !began) || (insists && !isBusy))
    return {
      whole: true,
      changes: insists ? led : { ...led, ...chosenSince(request, does, now, times) },
    };
  if (does.rehearses && times.ended <= request.asked) return { changes: rehearsal(led, sent, now) };
  if (does.moves && (began || !writes)) return { changes: place(led, request, now, times) };
  return { changes: {}, lost: Boolean(refused && (sent.text !== null || request.state)) };
}

// The cell that was chosen after a move was asked for, though before it was sent: it stays chosen.
function chosenSince(request, does, { anchor, focus, inner, also }, times) {
  return does.moves && times.selected > request.asked ? { anchor, focus, inner, also } : {};
}

// Whether an entry was begun while a move was on its way: it belongs into the cell that this led to.
export function begunSince({ request, does, now, times }) {
  return does.moves && now.fresh && times.begun > request.asked;
}

// The rehearsal that began or changed; its formula is that of the answer unless more was typed.
function rehearsal({ source, target, landing, values, step, text, writing, flipped }, sent, now) {
  const formula = now.text === sent.text ? { text, writing, flipped } : {};
  return { source, target, landing, values, step, ...formula };
}

// The hands went on on the sheet that the move led to, and in its cell unless they chose another.
function place({ sheet, home, anchor, focus, inner, left, top }, request, now, times) {
  if (times.selected > request.asked) return { sheet, home };
  const area = areaText(span(cell(anchor), cell(focus)));
  const writing =
    now.text === null ? {} : { writing: inner || anchor, over: anchor === focus ? "" : area };
  return { sheet, home, anchor, focus, inner, left, top, ...writing };
}

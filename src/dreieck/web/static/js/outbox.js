// What was typed or done and is not answered yet stands in the browser's own store, so that it
// survives a reload and a closed tab. Each piece has an identity: sent twice, it is done once. What
// could not be kept stays there, too, with the reason, until somebody decides about it.
const store = `outbox ${document.getElementById("page-state").dataset.pages} `;
const page = Date.now().toString(36).padStart(9, "0") + random();
let count = 0;

function random() {
  return [...crypto.getRandomValues(new Uint8Array(10))]
    .map((each) => each.toString(16).padStart(2, "0"))
    .join("");
}

export function newPiece() {
  count += 1;
  return `${page}.${count}`;
}

// Keeps a piece: what is asked for, with the state and the revision that it is meant for. One that is
// too large for the store of the browser waits in this page alone.
export function remember({ piece, action, wish, state, revision, why }) {
  try {
    localStorage.setItem(
      store + piece,
      JSON.stringify({ piece, action, wish, state, revision, why }),
    );
  } catch {
    localStorage.removeItem(store + piece);
  }
}

export function forget(piece) {
  localStorage.removeItem(store + piece);
}

// What pages that were left did not get an answer for, in order.
export function leftBehind() {
  const found = [];
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(store) || key.startsWith(store + page)) continue;
    const held = read(key);
    if (held) found.push(held);
    else localStorage.removeItem(key);
  }
  const order = ({ piece }) => [piece.split(".")[0], Number(piece.split(".")[1])];
  return found.sort((one, other) => {
    const [first, second] = [order(one), order(other)];
    return first[0] === second[0] ? first[1] - second[1] : first[0] < second[0] ? -1 : 1;
  });
}

function read(key) {
  try {
    const held = JSON.parse(localStorage.getItem(key));
    return held?.piece && held.action && held.state ? held : null;
  } catch {
    return null;
  }
}

// What is told: above the panel, and what the server said where it did not do what was asked.

const LAST_WORD = "The server did not do this, and did not say why. Nothing that was kept is lost.";

// The words of an answer that is a notice, a page, or plain text.
export function refusal(text) {
  const page = new DOMParser().parseFromString(text, "text/html");
  const said = page.querySelector(".notice, .lead") ?? page.body;
  said.querySelector(".way-back")?.remove();
  return said.textContent.trim().slice(0, 1000) || LAST_WORD;
}

// Where an answer leads to take back what cannot be drawn.
export function wayBack(text) {
  return new DOMParser().parseFromString(text, "text/html").querySelector(".notice .way-back");
}

// A problem in words, as a page shows it.
export function problem(text) {
  const told = said(text, "problem");
  told.setAttribute("role", "alert");
  return told;
}

function said(text, kind) {
  const paragraph = document.createElement("p");
  paragraph.className = `notice ${kind}`;
  paragraph.textContent = text;
  return paragraph;
}

export function tell(text, link = null) {
  const told = problem(text);
  if (link) told.append(" ", document.adoptNode(link));
  place().replaceChildren(told);
}

// What was done, in words.
export function note(text) {
  place().replaceChildren(said(text, "told"));
}

// What could be done, each by its button; what is told is over then.
export function offer(text, choices) {
  const told = said(text, "news");
  const row = document.createElement("span");
  row.className = "row-buttons";
  for (const [says, does] of Object.entries(choices)) {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "btn btn-sm btn-outline-primary";
    button.textContent = says;
    button.addEventListener("click", () => {
      hush();
      does();
    });
    row.append(button);
  }
  told.append(row);
  place().replaceChildren(told);
}

export function hush() {
  place().replaceChildren();
}

// Why the last thing was not done; empty if it was.
export function refused() {
  return place().querySelector(".problem")?.textContent.trim() ?? "";
}

// What is told now.
export function told() {
  return place().textContent.trim();
}

function place() {
  return document.getElementById("notice");
}

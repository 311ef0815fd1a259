// Where there is little room, desk, looks and panel fold away; each opens by its button or tab.
const bench = document.body;
const opened = new Set();

function draw() {
  bench.dataset.open = [...opened].join(" ");
  for (const button of document.querySelectorAll("[data-folds]"))
    button.setAttribute("aria-expanded", String(opened.has(button.dataset.folds)));
}

export function unfold(name) {
  opened.add(name);
  draw();
}

document.addEventListener(
  "click",
  ({ target }) => {
    const name = target.closest("[data-folds]")?.dataset.folds;
    if (name) opened.has(name) ? opened.delete(name) : opened.add(name);
    const tab = target.closest("#panel [role=tab]");
    // The tab that is chosen already folds the panel, and opens it again.
    if (tab)
      opened.has("panel") && tab.getAttribute("aria-selected") === "true"
        ? opened.delete("panel")
        : opened.add("panel");
    if (name || tab) draw();
  },
  true,
);

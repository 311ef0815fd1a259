// The list of all commands: it narrows as one types, arrows go through it, Enter takes one.
const dialog = document.getElementById("dialog");

function found() {
  return [...dialog.querySelectorAll(".commands button")].filter((each) => !each.hidden);
}

dialog.addEventListener("input", ({ target }) => {
  if (target.id !== "commands-filter") return;
  const words = target.value.toLowerCase().split(/\s+/);
  for (const each of dialog.querySelectorAll(".commands button"))
    each.hidden = !words.every((word) => each.textContent.toLowerCase().includes(word));
  document.getElementById("no-command").hidden = found().length > 0;
});

dialog.addEventListener("keydown", (event) => {
  const list = dialog.querySelector(".commands");
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (!list || (!step && event.key !== "Enter")) return;
  const all = found();
  const at = all.indexOf(document.activeElement);
  if (event.key === "Enter" && at >= 0) return;
  event.preventDefault();
  // A dialog that this opens is not to take the key, too.
  event.stopPropagation();
  if (event.key === "Enter") all[0]?.click();
  else if (at + step < 0) document.getElementById("commands-filter").focus();
  else all[Math.min(at + step, all.length - 1)]?.focus();
});

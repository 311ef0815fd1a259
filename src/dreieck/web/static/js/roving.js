// Choices of one among several, and rows of tabs and tiles: one of them is reached by Tab, arrows go on.
const GROUPS = "[role=radiogroup], [role=tablist], [role=toolbar], .mini";
const STEPS = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 };

function members(group) {
  const all = group.querySelectorAll("[role=radio], [role=tab], button, select");
  return [...all].filter((each) => !each.disabled && each.checkVisibility());
}

function isChosen(each) {
  return (
    each.getAttribute("aria-checked") === "true" || each.getAttribute("aria-selected") === "true"
  );
}

// Of each group only the chosen one, or the one that has the keys, is reached by Tab.
export function rove() {
  for (const group of document.querySelectorAll(GROUPS)) {
    const all = members(group);
    const reached =
      all.find((each) => each === document.activeElement) ?? all.find(isChosen) ?? all[0];
    for (const each of all) each.tabIndex = each === reached ? 0 : -1;
  }
}

document.addEventListener(
  "keydown",
  (event) => {
    const group = event.target.closest(GROUPS);
    if (!group || event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return;
    const all = members(group);
    const at = all.indexOf(document.activeElement);
    const ends = { Home: 0, End: all.length - 1 };
    const step = STEPS[event.key];
    if (at < 0 || (step === undefined && !(event.key in ends))) return;
    // A list of choices takes the arrows up and down itself.
    if (
      event.target.tagName === "SELECT" &&
      ["ArrowUp", "ArrowDown", "Home", "End"].includes(event.key)
    )
      return;
    event.preventDefault();
    event.stopPropagation();
    const next = all[step ? (at + step + all.length) % all.length : ends[event.key]];
    for (const each of all) each.tabIndex = each === next ? 0 : -1;
    next.focus();
    if (next.matches("[role=radio], [role=tab]")) next.click();
  },
  true,
);

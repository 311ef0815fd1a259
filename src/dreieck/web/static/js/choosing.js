// Chooses all of a list, or none if all are chosen.
document.addEventListener("click", ({ target }) => {
  const name = target.dataset.chooseAll;
  if (!name) return;
  const boxes = [...target.closest("form").querySelectorAll(`input[name="${name}"]`)];
  const all = boxes.every((box) => box.checked);
  for (const box of boxes) box.checked = !all;
});

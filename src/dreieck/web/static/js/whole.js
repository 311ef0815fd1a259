// What is cut has its whole as a tooltip.
document.addEventListener("pointerover", ({ target }) => {
  const cut = target.closest?.(
    "td, th, dd, dt, .ends div, .reading, .workbook-name, .sheets a, .card-ref b",
  );
  if (!cut || cut.title) return;
  const isCut = [cut, ...cut.children].some(
    (each) => each.scrollWidth > each.clientWidth + 1 && each.clientWidth,
  );
  if (isCut) cut.title = cut.textContent.trim();
});

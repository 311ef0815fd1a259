// Copies a table of the page as tab-separated text.
document.addEventListener("click", async (event) => {
  const button = event.target.closest("[data-copy-table]");
  if (!button) return;
  const rows = [...document.querySelector(button.dataset.copyTable).rows];
  const text = rows
    .map((row) => [...row.cells].map((cell) => cell.textContent.trim()).join("\t"))
    .join("\n");
  await navigator.clipboard.writeText(text);
  button.textContent = `${rows.length - 1} rows copied`;
});

// Files dropped on the page: the dialog that opens files takes the first one.
export function acceptFiles(openDialog) {
  const brings = (event) => event.dataTransfer?.types.includes("Files");
  document.addEventListener("dragover", (event) => {
    if (!brings(event)) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = "copy";
  });
  document.addEventListener("drop", async (event) => {
    if (!brings(event)) return;
    event.preventDefault();
    const { files } = event.dataTransfer;
    await openDialog();
    const form = document.querySelector(".file-ask");
    if (!form) return;
    form.elements.file.files = files;
    form.requestSubmit();
  });
}

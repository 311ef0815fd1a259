// Files dropped on the page: the dialog that opens files takes the first one. What the server
// refuses is told in that dialog.
import { problem, refusal } from "./notice.js";

document.addEventListener("htmx:responseError", (event) => {
  const place = event.target.closest("#file");
  if (!place) return;
  place.querySelector(".notice.problem")?.remove();
  place.querySelector("h2").after(problem(refusal(event.detail.xhr.responseText)));
});

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
    const first = new DataTransfer();
    first.items.add(event.dataTransfer.files[0]);
    await openDialog();
    const form = document.querySelector(".file-ask");
    if (!form) return;
    form.elements.file.files = first.files;
    form.requestSubmit();
  });
}

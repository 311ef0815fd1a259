// Tells times as this place does; opens the question dialog when its text has arrived, and closes
// it when it is answered.
import { acceptFiles } from "./dropping.js";
import { problem, refusal } from "./notice.js";

for (const time of document.querySelectorAll("time")) {
  const style = { dateStyle: "medium", timeStyle: "short" };
  time.textContent = `changed ${new Date(time.dateTime).toLocaleString([], style)}`;
}

// A refusal is told above the list.
document.body.addEventListener("htmx:responseError", (event) =>
  tell(refusal(event.detail.xhr.responseText)),
);
document.body.addEventListener("htmx:sendError", () =>
  tell("The server cannot be reached. Try again when it is back."),
);

function tell(text) {
  document.querySelector("#workbooks .notice")?.remove();
  document.getElementById("workbooks").prepend(problem(text));
}

const question = document.getElementById("question");

document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.target === question) question.showModal();
  else if (!question.contains(event.target)) question.close();
});
acceptFiles(async () => {
  question.close();
  await htmx.ajax("GET", "/files", { target: question, swap: "innerHTML" });
});
question.addEventListener("click", (event) => {
  if (event.target.closest("[data-close]")) question.close();
});

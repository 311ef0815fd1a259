// Tells times as this place does; opens the question dialog when its text has arrived, and closes it when it is answered.
for (const time of document.querySelectorAll("time")) {
  time.textContent = `changed ${new Date(time.dateTime).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}`;
}

const question = document.getElementById("question");

document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.target === question) question.showModal();
  else question.close();
});
question.addEventListener("click", (event) => {
  if (event.target.closest("[data-close]")) question.close();
});

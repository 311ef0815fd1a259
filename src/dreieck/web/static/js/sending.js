// Sends one request and says what became of it: answered, refused with the reason, or, where the
// line or the server failed, to be tried again.
import { refusal, wayBack } from "./notice.js";

const form = document.getElementById("page-state");
// A server that does not answer for so long, in milliseconds, is asked again.
form.setAttribute("hx-request", JSON.stringify({ timeout: 30_000 }));
// What the server says where it cannot do anything just now, or where a line in between failed.
const PASSING = [408, 425, 429, 502, 503, 504];

export function post(url, values) {
  return new Promise((resolve) => {
    const done = (event) => {
      form.removeEventListener("htmx:afterRequest", done);
      const { xhr, successful } = event.detail;
      const status = xhr?.status ?? 0;
      if (successful === true) resolve({ answered: true });
      else if (!status || PASSING.includes(status)) resolve({ unreached: true });
      else resolve({ status, says: refusal(xhr.responseText), back: wayBack(xhr.responseText) });
    };
    form.addEventListener("htmx:afterRequest", done);
    // What went wrong is told by the event above.
    htmx.ajax("POST", url, { source: form, target: form, swap: "none", values }).catch(() => {});
  });
}

export function cut() {
  htmx.trigger(form, "htmx:abort");
}

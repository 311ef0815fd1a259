// What the page does of itself, by name: keys, buttons and the list of commands ask for it.
import { ask } from "./asking.js";
import { copy, pasteByButton } from "./clipboard.js";
import { act } from "./exchange.js";
import { about, enter, help, nextView, takePointed } from "./keyboard.js";
import { selected, state } from "./state.js";
import { desk, discard, drop, land, write } from "./writing.js";

const form = document.getElementById("page-state");

export const OWN_ACTS = {
  write: () => write(desk),
  keep: () => (state.target ? land() : enter("down")),
  discard,
  drop,
  "next-view": nextView,
  address: () => document.getElementById("address").select(),
  name: () =>
    ask(
      `${form.dataset.names}/dialog?sheet=${state.sheet}&area=${selected()}&name=${takePointed()}`,
    ),
  about,
  "this-sheet": () => document.querySelector("#sheets [data-ask]").click(),
  looks: () => document.querySelector("#band select").focus(),
  look: () => (state.look_taken ? act("give-look") : act("take-look")),
  commands: () => ask(`${form.dataset.pages}${state.sheet}/commands`),
  help,
  copy: () => copy(false),
  cut: () => copy(true),
  paste: pasteByButton,
};

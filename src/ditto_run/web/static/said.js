// What is said: to the ear through the one status line that outlives every redraw, to the eye at the foot, by the voice where it is on.
import { say } from "./sound.js";

export const said = () => document.getElementById("said");

// The line is emptied first, so that a screen reader reads the same words once more.
const announce = (text) => {
  const line = document.getElementById("status");
  line.textContent = "";
  setTimeout(() => (line.textContent = text), 60);
};

export const sayAgain = (text) => {
  if (!text) return;
  announce(text);
  document.getElementById("said-shown").textContent = text;
  say(text, false);
};

// A page, or a board, that was drawn again says what was done and what comes next; a part of it what it has to say itself.
document.addEventListener("htmx:afterSettle", (event) => {
  const drawn = event.detail.target?.id || event.detail.elt?.id;
  if (["app", "board", "board-top"].includes(drawn)) announce(said()?.textContent || "");
  else if (drawn) sayAgain(document.getElementById(drawn)?.dataset.says);
});

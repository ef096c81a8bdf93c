// What is said: the status line, and the voice where it is on.
import { say } from "./sound.js";

export const said = () => document.getElementById("said");

// Said again: the status line is emptied first, so that a screen reader reads it once more.
export const sayAgain = (text) => {
  if (!text) return;
  const line = said();
  line.textContent = "";
  setTimeout(() => {
    line.textContent = text;
    document.getElementById("said-shown").textContent = text;
  }, 60);
  say(text, false);
};

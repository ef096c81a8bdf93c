// What every page has, and what a page needs besides, loaded when it is there, also after a part was drawn again.
import "./forms.js";
import "./keys.js";
import "./narrow.js";
import "./drafts.js";

const NEEDED = { "#board": "./run.js", ".strip-grid": "./strip.js", "#layout": "./layout.js" };

const load = () => {
  for (const [mark, file] of Object.entries(NEEDED)) if (document.querySelector(mark)) import(file);
};
load();
document.addEventListener("htmx:afterSettle", load);

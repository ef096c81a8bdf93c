// What every page has, and what a page needs besides, loaded when it is there, also after a part was drawn again.
import "./forms.js";
import "./keys.js";
import "./narrow.js";
import "./drafts.js";

const NEEDED = { "#board": "./run.js", ".strip-grid": "./strip.js", "#layout": "./layout.js", ".part-picture": "./pick.js" };

// A script that could not be fetched, because the server was away, is asked for again until it comes.
const bring = (file, again = 0) =>
  import(again ? `${file}?again=${again}` : file).catch(() => setTimeout(() => bring(file, again + 1), 1500));

const load = () => {
  for (const [mark, file] of Object.entries(NEEDED)) if (document.querySelector(mark)) bring(file);
};
load();
document.addEventListener("htmx:afterSettle", load);

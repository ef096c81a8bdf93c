// Runs before the page is drawn: the night theme does not flash, and early keys and forms are kept.
(() => {
  const chosen = new URLSearchParams(location.search).get("theme") || localStorage.getItem("ditto-theme");
  const night = chosen ? chosen === "night" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = night ? "night" : "day";

  // A key pressed before the handler of the keys is there is kept for it; nothing a quick hand presses is lost.
  const early = [];
  const keep = (event) => {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "Escape" || !event.target.closest?.("input, textarea, select, button, a, summary")) early.push({ key: event.key, shiftKey: event.shiftKey });
  };
  document.addEventListener("keydown", keep, true);

  // A form sent before its handler is there would replace the whole page, and lose the entry if it is refused: it waits too.
  let sent = null;
  const hold = (event) => {
    event.preventDefault();
    sent = { form: event.target, by: event.submitter };
  };
  document.addEventListener("submit", hold, true);
  window.dittoEarly = () => {
    document.removeEventListener("keydown", keep, true);
    document.removeEventListener("submit", hold, true);
    if (sent?.form.isConnected) sent.form.requestSubmit(sent.by);
    return early.splice(0);
  };
})();

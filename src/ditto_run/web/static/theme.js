// Runs before the page is drawn, so that the night theme does not flash.
(() => {
  const chosen = new URLSearchParams(location.search).get("theme") || localStorage.getItem("ditto-theme");
  const night = chosen ? chosen === "night" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = night ? "night" : "day";
})();

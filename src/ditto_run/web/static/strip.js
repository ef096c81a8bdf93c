// The strip is a grid with one tab stop; arrow keys walk it and each mark says its name.
const walk = (event, cell) => {
  const rows = [...cell.closest(".strip-grid").querySelectorAll("[role=row]")];
  const row = cell.closest("[role=row]");
  const index = [...row.children].indexOf(cell);
  const step = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[event.key];
  const target = rows[rows.indexOf(row) + step[0]]?.children[index + step[1]];
  event.preventDefault();
  if (target) { rove(target); target.focus(); }
};
const rove = (cell) => {
  cell.closest(".strip-grid").querySelectorAll('[tabindex="0"]').forEach((old) => (old.tabIndex = -1));
  cell.tabIndex = 0;
};
const prepare = () =>
  document.querySelectorAll(".strip-grid").forEach((grid) => {
    if (grid.querySelector('[tabindex="0"]')) return;
    const cells = [...grid.querySelectorAll("[role=gridcell]")];
    const made = cells.filter((cell) => cell.dataset.piece !== "0");
    const first = made.at(-1) || cells[0];
    if (first) first.tabIndex = 0;
  });
prepare();
document.addEventListener("htmx:afterSettle", prepare);
document.addEventListener("click", (event) => {
  const cell = event.target.closest(".strip-grid [role=gridcell]");
  if (cell && cell.dataset.piece !== "0") location.search = `?piece=${cell.dataset.piece}`;
});
document.addEventListener("keydown", (event) => {
  const cell = event.target.closest && event.target.closest(".strip-grid [role=gridcell]");
  if (!cell || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key.startsWith("Arrow")) walk(event, cell);
  if (event.key !== "Enter") return;
  event.preventDefault(); // it chooses the piece, and presses no other key of the page
  if (cell.dataset.piece !== "0") location.search = `?piece=${cell.dataset.piece}`;
}, true);

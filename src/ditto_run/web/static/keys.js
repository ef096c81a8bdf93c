// One handler for all keys. The table comes from the server; a key presses the control that bears its data-key.
import { said, sayAgain } from "./said.js";

const table = JSON.parse(document.getElementById("key-table").textContent);
const page = () => document.getElementById("app").dataset.page;
const keyOf = (name) => table.find((key) => key.key === name && (key.place === "everywhere" || key.place === page()));
const lettersOff = () => localStorage.getItem("ditto-letters") === "off";
let stationWanted = false;
let waiting = []; // keys pressed while an answer is on its way; they are meant for what that answer shows
let replayed = false; // what is pressed now was kept before

const press = (keys) => document.dispatchEvent(new KeyboardEvent("keydown", { ...keys, bubbles: true, cancelable: true }));
const typesReading = (key) => /^[0-9.,−+\-/'"°]$/.test(key) || key === "Backspace";
const pressWaiting = () => {
  while (waiting.length && !document.querySelector("form.htmx-request")) {
    const next = waiting.shift();
    const rd = document.getElementById("rd");
    if (typesReading(next.key) && rd) {
      rd.value = next.key === "Backspace" ? rd.value.slice(0, -1) : rd.value + next.key;
      rd.dispatchEvent(new Event("input", { bubbles: true }));
    } else if (typesReading(next.key)) {
      const typed = [next, ...waiting].map((one) => one.key).filter((key) => key.length === 1).join("");
      waiting = []; // no size is asked for now: neither the number nor the Enter behind it is meant for this
      sayAgain(`Not taken: ${typed}. No size is asked for.`);
    } else if (next.key === "Enter" && rd?.value) rd.form.requestSubmit();
    else {
      replayed = true;
      press(next);
      replayed = false;
    }
  }
};
document.addEventListener("htmx:afterSettle", () => setTimeout(pressWaiting));
document.addEventListener("htmx:afterRequest", () => setTimeout(pressWaiting, 50));

const nameOf = (event) => {
  if (event.key === " ") return "Space";
  if (event.key.length > 1) return event.key;
  if (/[a-z]/i.test(event.key)) return event.shiftKey ? "Shift+" + event.key.toUpperCase() : event.key.toLowerCase();
  return event.key;
};
const isText = (el) => el.matches("textarea, select, [contenteditable], input:not([type=checkbox], [type=radio], [type=button])");

const otherTheme = () => {
  const next = document.documentElement.dataset.theme === "night" ? "day" : "night";
  document.documentElement.dataset.theme = next;
  localStorage.setItem("ditto-theme", next);
};
const own = {
  s: () => sayAgain(said()?.textContent),
  "Shift+S": () => sayAgain(said()?.dataset.where + " " + openThings()),
  "Shift+N": otherTheme,
  g: () => { stationWanted = true; sayAgain("Which station?"); },
  Enter: () => document.querySelector(".brass-enter")?.click(),
};
const openThings = () =>
  [...document.querySelectorAll(".dr-line a")].map((a) => a.textContent.replace(/\s+/g, " ").trim()).filter((t) => /open|held|to go/.test(t)).join(", ");

const goToStation = (label) => {
  stationWanted = false;
  const holder = document.querySelector(`[data-station="${CSS.escape(label.toUpperCase())}"], [data-station^="${CSS.escape(label.toUpperCase())}"]`);
  if (holder) { holder.click(); return; }
  const cells = [...document.querySelectorAll(`.strip-grid [role=gridcell]`)].filter(
    (cell) => cell.getAttribute("aria-label").includes(`station ${label.toUpperCase()},`) && cell.dataset.piece !== "0" && cell.getClientRects().length
  );
  if (cells.length) location.search = `?piece=${cells[cells.length - 1].dataset.piece}`;
};

const isDigit = (key) => /^[0-9.,−+\-]$/.test(key);
let stepWanted = false; // after Esc left the reading field, one digit is a step again

let ready = false; // the forms get their handlers when the page is whole; a key before that is kept for then
document.addEventListener("keydown", (event) => {
  if (!ready || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
  const el = document.activeElement || document.body;
  const reading = el.id === "rd";
  const name = nameOf(event);
  // A held key counts once: what it repeats is no second wish.
  if (event.repeat && !isText(el) && (keyOf(name) || name === "Enter")) { event.preventDefault(); return; }
  if (event.repeat && reading && (name === "Space" || name === "Enter")) { event.preventDefault(); return; }
  // What is pressed after a reading that is on its way comes after it, in the order it was pressed.
  const onItsWay = document.querySelector("form.htmx-request");
  const behind = !replayed && (onItsWay?.id === "reading" || waiting.length > 0);
  if (behind && (reading || el === document.body || el.id === "main") && (typesReading(event.key) || name === "Enter")) {
    event.preventDefault();
    waiting.push({ key: event.key, shiftKey: false });
    return;
  }
  if (event.key === "Escape") {
    const leave = document.querySelector("[data-leave]");
    if (isText(el) && !el.closest("#small-form")) { stepWanted = reading; el.blur(); document.getElementById("main")?.focus(); }
    else if (leave) leave.click();
    else if (el === document.body) document.getElementById("main")?.focus(); // the first field does not take the focus after all
    return;
  }
  // The clock's key never presses a judgement, wherever the focus is.
  if (name === "Space" && el.matches("[data-judges]")) event.preventDefault();
  const field = document.getElementById("rd");
  if (field && !reading && !isText(el) && !stepWanted && isDigit(event.key) && !stationWanted) {
    field.focus(); // the digit itself is typed there
    return;
  }
  stepWanted = false;
  if (stationWanted && event.key.length === 1) { event.preventDefault(); goToStation(event.key); return; }
  if (isText(el) && !reading) return;
  if (reading && typesReading(event.key)) return;
  if (page() === "open" && /^Arrow(Up|Down)$/.test(event.key)) { nextRow(event); return; }
  if (["part", "method", "hold", "stock", "tools"].includes(page()) && /^Arrow(Up|Down)$/.test(event.key)) { focusRow(event); return; }
  if (onItsWay || (waiting.length && !replayed)) {
    if (!keyOf(name) && name !== "Enter") return;
    event.preventDefault();
    waiting.push({ key: event.key, shiftKey: event.shiftKey });
    return;
  }
  if (name === "Enter" && (reading || el.matches("a, button, summary, input, label, select"))) {
    // An empty reading field hands Enter to the brass key, if there is one.
    if (reading && !el.value) event.preventDefault();
    if (!(reading && !el.value)) return;
  }
  const own_space = "button:not([data-judges]), summary, input[type=checkbox], input[type=radio]";
  if (name === "Space" && el.matches(own_space) && !reading) return;
  const key = keyOf(name);
  if (!key) return;
  if (key.letter && lettersOff()) return;
  const control = document.querySelector(`[data-key="${CSS.escape(name)}"]:not([disabled])`);
  if (!own[name] && !control) return;
  event.preventDefault();
  if (own[name]) own[name]();
  else if (control.matches("input[type=checkbox]")) {
    control.click();
    sayAgain(control.checked ? control.dataset.on : control.dataset.off);
  }
  else if (control.matches("input")) control.focus();
  else control.click();
});

// The foot line shows only keys that work now: while something is typed, that is Esc.
const works = (key) => {
  if (key === "Enter") return page() === "open" || document.querySelector(".brass-enter, #rd") !== null;
  const name = key.toLowerCase();
  return key.length > 1 || Boolean(own[name]) || document.querySelector(`[data-key="${CSS.escape(name)}"]`) !== null;
};
const showTyping = () => {
  const foot = document.getElementById("foot");
  foot?.classList.toggle("is-typing", isText(document.activeElement || document.body) && document.activeElement.id !== "rd");
  foot?.querySelectorAll(".keys:not(.is-leaving) > span").forEach((one) => (one.hidden = !works(one.querySelector("kbd").textContent)));
};
document.addEventListener("focusin", showTyping);
document.addEventListener("focusout", () => setTimeout(showTyping));
document.addEventListener("htmx:afterSettle", showTyping);

// On the list of what is open the arrows choose a row.
const nextRow = (event) => {
  const rows = [...document.querySelectorAll("[data-row]")];
  const at = rows.findIndex((row) => row.getAttribute("aria-current") === "true");
  const next = rows[at + (event.key === "ArrowDown" ? 1 : -1)];
  event.preventDefault();
  if (next) next.click();
};

// On a page of questions the arrows move the focus; Enter then opens what has it.
const focusRow = (event) => {
  const rows = [...document.querySelectorAll("[data-row]")];
  const next = rows[rows.indexOf(document.activeElement) + (event.key === "ArrowDown" ? 1 : -1)];
  if (!rows.length) return;
  event.preventDefault();
  (next || rows[0]).focus();
};

const box = document.getElementById("letters-off");
if (box) {
  box.checked = lettersOff();
  box.addEventListener("change", () => localStorage.setItem("ditto-letters", box.checked ? "off" : "on"));
}
const begin = () => {
  showTyping();
  ready = true;
  window.dittoEarly().forEach(press);
};
if (document.readyState === "complete") begin();
else document.addEventListener("DOMContentLoaded", begin); // the forms got theirs just before

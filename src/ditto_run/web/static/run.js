// Run: the clock, the pad, the unit key, what is said after each line, and the other tabs.
import { everySecond } from "./clock.js";
import { narrow } from "./narrow.js";
import { sayAgain } from "./said.js";
import { say, tones } from "./sound.js";

const board = () => document.getElementById("board");
const top = () => document.getElementById("board-top");
const field = () => document.getElementById("rd");
let offset = 0; // the server's clock against this one
let spoken = null;

const running = () => document.querySelector(".clock[data-started]");
const run_ms = () => Math.max(0, Date.now() + offset - Date.parse(running()?.dataset.started || 0));
const tick = () => {
  const clock = running();
  if (!clock) return;
  const seconds = run_ms() / 1000;
  const whole = Math.floor(seconds);
  document.getElementById("clock").textContent = `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
  const planned = Number(clock.dataset.planned);
  if (planned) document.getElementById("clock-bar").style.width = `${Math.min(100, (seconds / planned) * 100)}%`;
  if (planned && Math.abs(planned - seconds - 60) < 2 && clock.dataset.minute !== "said") {
    clock.dataset.minute = "said";
    sayAgain("One minute.");
  }
};

const arrived = () => {
  const now = document.querySelector(".clock[data-now]");
  if (now) offset = Date.parse(now.dataset.now) - Date.now();
  const here = top();
  if (!here) return;
  takeCells();
  if (here.dataset.tone) tones(Number(here.dataset.tone), here.dataset.rough === "yes");
  const mark = here.dataset.seq + here.dataset.said;
  if (spoken !== null && spoken !== mark) say(here.dataset.said, false);
  spoken = mark;
  delete here.dataset.tone;
  tick();
};

// Marks that a reading changed take the place of their old ones; nothing else of the strip is touched.
const takeCells = () => {
  const cells = document.getElementById("cells");
  if (!cells) return;
  document.querySelectorAll(".strip-grid .g-due").forEach((old) => old.remove());
  [...cells.children].forEach((cell) => {
    const old = document.querySelector(`.strip-grid [data-cell="${CSS.escape(cell.dataset.cell)}"]`);
    if (!old) return;
    cell.tabIndex = old.tabIndex;
    old.replaceWith(cell);
  });
  cells.remove();
};

// A tablet that is turned is drawn for again.
let asked = 0; // how often since it was turned; two answers may cross, and the last one be of the other layout
narrow.addEventListener("change", () => {
  asked = 0;
  if (board()) refresh();
});
const turnedMeanwhile = () => {
  const drawn = [...document.querySelectorAll(".strip-grid")];
  if (drawn.length && !drawn.some((grid) => grid.getClientRects().length) && asked++ < 3) refresh();
};

const shiftUnit = () => {
  const rd = field();
  const unit = document.querySelector("#reading [name=unit]");
  if (!rd || !unit || rd.dataset.unit === "arcsec") return;
  const now = unit.value || rd.dataset.unit;
  const next = now === "mm" ? "in" : "mm";
  unit.value = next === rd.dataset.unit ? "" : next;
  document.getElementById("unit-shown").textContent = next;
  document.getElementById("unit-other").textContent = now;
  rd.focus();
};

document.addEventListener("click", (event) => {
  const key = event.target.closest("[data-digit]");
  const rd = field();
  if (event.target.closest("#unit-key")) shiftUnit();
  if (!key || !rd) return;
  rd.value = key.dataset.digit === "back" ? rd.value.slice(0, -1) : rd.value + key.dataset.digit;
  rd.dispatchEvent(new Event("input", { bubbles: true }));
  rd.focus();
});
document.addEventListener("click", (event) => {
  // Leave a small form without leaving the page.
  const leave = event.target.closest("#board [data-leave]");
  if (!leave || !window.htmx) return;
  event.preventDefault();
  refresh();
});

const refresh = () => htmx.ajax("GET", location.pathname + location.search, { target: "#board", swap: "outerHTML" });

// A number that is typed and not kept yet outlives what another key draws anew, for the same size of the same piece.
let unkept = null;
const ofSize = (form) => `${form.elements["piece"].value} ${form.elements["characteristic"].value}`;
document.addEventListener("htmx:beforeSwap", (event) => {
  const form = field()?.form;
  const own = event.detail.requestConfig.elt.closest("#reading");
  const text = !own && form && event.detail.target.id === "board" ? field().value : "";
  unkept = text ? { text, of: ofSize(form), rough: form.elements["rough"]?.checked } : null;
});
const bringBack = () => {
  const rd = field();
  if (unkept && rd && !rd.value && unkept.of === ofSize(rd.form)) {
    rd.value = unkept.text;
    if (unkept.rough) rd.form.elements["rough"].checked = true;
    rd.dispatchEvent(new Event("input", { bubbles: true }));
  }
  unkept = null;
};

// What is typed is said after a pause, so that a slipped digit is heard before it is kept.
let pause = 0;
document.addEventListener("input", (event) => {
  if (event.target.id !== "rd") return;
  const confirm = document.querySelector("#reading [name=confirm]");
  if (confirm && confirm.value && confirm.value !== event.target.value.trim()) confirm.value = "";
  clearTimeout(pause);
  const unit = document.getElementById("unit-shown").textContent === "in" ? "inches" : "millimetres";
  pause = setTimeout(() => event.target.value && say(`${event.target.value} ${unit}.`, false), 700);
});

// Another tab or person recorded something: redraw, but never under a hand that is in the middle of an entry,
// before a question that wants an answer, or while an answer of our own is on its way; then it is tried again a moment later.
let newest = 0;
let asking = false;
const behind = () => top() && newest > Number(top().dataset.seq);
const busy = () => document.hidden || (field() && field().value) || document.querySelector("#small-form, #board .problem [data-fill]") || document.querySelector(".htmx-request");
const catchUp = async () => {
  if (asking || !behind() || busy()) return;
  asking = true;
  try {
    const answer = await fetch(location.href, { headers: { "HX-Request": "true", "HX-Target": "board" } });
    const text = await answer.text();
    if (answer.ok && behind() && !busy()) htmx.swap("#board", text, { swapStyle: "outerHTML" });
  } catch {
    // The server is away; the stream says when it is back.
  } finally {
    setTimeout(() => {
      asking = false;
      catchUp(); // more lines may have come meanwhile; many at once are drawn once
    }, 300);
  }
};
let stream = null;
const listen = () => {
  if (!board() || stream) return;
  stream = new EventSource(`/jobs/${board().dataset.run}/run/stream`);
  stream.addEventListener("line", (event) => {
    newest = Number(event.data);
    catchUp();
  });
};

// What kept the hand from being disturbed may be over after each of these.
for (const name of ["input", "htmx:afterRequest"]) document.addEventListener(name, () => setTimeout(catchUp));
document.addEventListener("htmx:afterSettle", (event) => {
  const redrawn = event.detail.target?.id || event.detail.elt?.id;
  if (["board", "board-top", "app"].includes(redrawn)) {
    arrived();
    bringBack();
    listen();
    turnedMeanwhile();
  }
  setTimeout(catchUp);
});
document.addEventListener("visibilitychange", catchUp);
arrived();
listen();
everySecond(tick, run_ms);
turnedMeanwhile(); // before this was here to hear of it

// The layout: holders are dragged by hand or stepped with the arrow keys; the server checks and draws each move.
const WAIT_MS = 260; // keys pressed quickly are one move
const NEAR_PX = 4; // less is a click
let drag = null;
let pending = null;

const drawing = () => document.getElementById("layout");
const scale = () => Number(drawing().dataset.scale);
const holderOf = (target) => target.closest && target.closest("#layout .placed");
const step = () => {
  const typed = (document.getElementById("layout-step")?.value ?? localStorage.getItem("ditto-step") ?? "").replace(",", ".");
  const value = parseFloat(typed) * (/in\b|"/.test(typed) ? 25.4 : 1);
  return value > 0 ? value : Number(document.getElementById("layout-move").dataset.pitch);
};

const send = (holder, dx, dy, snap) => {
  const form = document.getElementById("layout-move");
  const at = (name, by) => (Number(holder.dataset[name]) + by).toFixed(4) + " mm";
  form.elements["key"].value = holder.dataset.placed;
  form.elements["view_holder"].value = document.getElementById("move-form")?.elements["key"].value || "";
  form.elements["left"].value = at("left", dx);
  form.elements["front"].value = at("front", dy);
  form.elements["snap"].value = snap ? "true" : "";
  form.requestSubmit();
};
const shift = (holder, dx, dy) => holder.setAttribute("transform", `translate(${dx * scale()} ${-dy * scale()})`);
const choose = (holder) => {
  const address = new URL(location);
  address.searchParams.set("holder", holder.dataset.placed);
  address.searchParams.delete("edit");
  location.href = address;
};

document.addEventListener("pointerdown", (event) => {
  const holder = holderOf(event.target);
  if (!holder || event.button !== 0) return;
  event.preventDefault();
  holder.focus();
  drag = { holder, x: event.clientX, y: event.clientY, dx: 0, dy: 0, id: event.pointerId };
});
document.addEventListener("pointermove", (event) => {
  if (!drag || event.pointerId !== drag.id) return;
  drag.dx = (event.clientX - drag.x) / scale();
  drag.dy = -(event.clientY - drag.y) / scale();
  shift(drag.holder, drag.dx, drag.dy);
});
document.addEventListener("pointerup", (event) => {
  if (!drag || event.pointerId !== drag.id) return;
  const { holder, dx, dy } = drag;
  drag = null;
  if (Math.hypot(dx, dy) * scale() < NEAR_PX) choose(holder);
  else send(holder, Math.round(dx * 10) / 10, Math.round(dy * 10) / 10, document.getElementById("layout-snap")?.checked);
});
document.addEventListener("pointercancel", () => {
  if (drag) drag.holder.removeAttribute("transform");
  drag = null;
});

const ways = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
document.addEventListener("keydown", (event) => {
  const holder = holderOf(event.target);
  if (!holder || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "Enter" || event.key === " ") {
    event.preventDefault();
    choose(holder);
    return;
  }
  const way = ways[event.key];
  if (!way) return;
  event.preventDefault();
  if (pending && pending.holder !== holder) return;
  pending = pending || { holder, dx: 0, dy: 0 };
  const by = event.shiftKey ? step() / 10 : step();
  pending.dx += way[0] * by;
  pending.dy += way[1] * by;
  shift(holder, pending.dx, pending.dy);
  clearTimeout(pending.timer);
  pending.timer = setTimeout(() => {
    const done = pending;
    pending = null;
    send(done.holder, done.dx, done.dy, false);
  }, WAIT_MS);
});

document.addEventListener("change", (event) => {
  if (event.target.id === "layout-step") localStorage.setItem("ditto-step", event.target.value);
});
const prepare = () => {
  const box = document.getElementById("layout-step");
  const kept = localStorage.getItem("ditto-step");
  if (box && kept) box.value = kept;
};
prepare();
document.addEventListener("htmx:afterSettle", prepare);
document.addEventListener("htmx:responseError", () => drawing()?.querySelectorAll(".placed[transform]").forEach((g) => g.removeAttribute("transform")));

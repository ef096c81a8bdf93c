// Forms: a refusal stands at its field, the entry stays, and nothing is sent twice.
const clear = (form) => {
  form.querySelectorAll(".problem").forEach((old) => old.remove());
  form.querySelectorAll("[aria-invalid]").forEach((field) => {
    field.removeAttribute("aria-invalid");
    if (field.dataset.described) field.setAttribute("aria-describedby", field.dataset.described);
    else field.removeAttribute("aria-describedby");
    delete field.dataset.described;
  });
};

// A key chosen here makes a repeated submission harmless.
const newKey = () => Array.from(crypto.getRandomValues(new Uint32Array(3)), (n) => n.toString(36)).join("");
const giveKey = (form) => {
  const key = form && form.elements && form.elements["client_key"];
  if (key && !key.value) key.value = newKey();
};
document.addEventListener("submit", (event) => giveKey(event.target), true);

const fieldOf = (form, name) =>
  (name && [...form.querySelectorAll(`[name="${CSS.escape(name)}"]`)].find((field) => field.type !== "hidden")) || null;

// quiet: only looked at while it is typed, so the hand is not moved and nothing is called out
const place = (form, html, quiet = false) => {
  clear(form);
  const box = document.createElement("div");
  box.innerHTML = html;
  const problem = box.querySelector(".problem");
  if (!problem) return;
  const field = fieldOf(form, problem.dataset.field);
  problem.id = "problem-" + (problem.dataset.field || "form");
  const here = form.querySelector("#problem-here") || document.querySelector("#problem-here");
  if (field && !field.closest(".reading")) (field.closest(".field, fieldset") || form).append(problem);
  else if (form.id === "reading" && here) here.after(problem);
  else form.append(problem);
  if (quiet) {
    problem.removeAttribute("role");
    problem.querySelectorAll("button").forEach((button) => button.remove());
    return;
  }
  if (field) {
    field.setAttribute("aria-invalid", "true");
    if (!field.dataset.described) field.dataset.described = field.getAttribute("aria-describedby") || "";
    field.setAttribute("aria-describedby", problem.id);
    field.focus();
    if (field.select && form.id === "reading") field.select();
  }
  if (problem.dataset.version)
    document.querySelectorAll('input[name="version"]').forEach((input) => (input.value = problem.dataset.version));
  const confirm = form.elements["confirm"];
  const typed = form.elements["text"];
  // Nothing here could be kept as it is: only the choices are left.
  if ((!confirm || !typed) && !form.elements["keep"]) problem.querySelector("[data-keep]")?.remove();
  if (confirm && typed && problem.dataset.name === "NeedsAnswer") confirm.value = typed.value.trim();
  // Enter once more says a doubtful size again, as it does with a reading.
  const keeps = form.elements["keep"];
  if (keeps && field && problem.querySelector("[data-keep]")) keeps.value = field.value.trim();
  if (!field) problem.querySelector("button[data-fill]")?.focus(); // the hand is led to the question
  problem.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    const hidden = problem.dataset.field && form.elements[problem.dataset.field];
    const target = field || fieldOf(form, "size") || fieldOf(form, "text") || hidden;
    if (button.dataset.fill !== undefined && target) target.value = button.dataset.fill;
    const keep = form.elements["keep"] || form.elements["confirm"];
    if (button.hasAttribute("data-keep") && keep && target) keep.value = target.value;
    form.requestSubmit();
  });
};

document.addEventListener("htmx:beforeSwap", (event) => {
  const { xhr, requestConfig } = event.detail;
  const elt = requestConfig.elt;
  const form = elt.closest("form");
  const live = elt.dataset.live !== undefined;
  const looked = live || (elt.matches("[hx-get]") && !elt.matches("form")); // while it is typed
  const answer = looked && document.querySelector(elt.getAttribute("hx-target"));
  if (xhr.status < 400) {
    if (live && form) clear(form);
    if (answer) answer.classList.remove("is-old");
    return;
  }
  event.detail.shouldSwap = false;
  if (answer) answer.classList.toggle("is-old", answer.querySelector(".answer, .dev") !== null); // it is not of what is typed now
  if (live && form) {
    place(form, xhr.responseText, true);
    return;
  }
  if (elt.matches("[hx-get]") && !elt.matches("form")) {
    // Only looked at while it is typed: say it quietly, do not stop the hand.
    const target = document.querySelector(elt.getAttribute("hx-target"));
    if (target && elt.name === "size" && !form?.querySelector("#problem-size")) {
      target.innerHTML = xhr.responseText;
      target.querySelector(".problem")?.removeAttribute("role");
      target.querySelectorAll("button").forEach((button) => button.remove());
    }
    return;
  }
  if (form) {
    place(form, xhr.responseText);
    const key = form.elements["client_key"];
    if (key) key.value = ""; // refused: the next try is another one
  }
});

document.addEventListener("htmx:sendError", (event) => {
  const form = event.detail.elt.closest("form");
  const text = "Ditto Run does not answer. Your entry is still here; send it again when it is back.";
  if (form) place(form, `<div class="problem" role="alert"><p><b>${text}</b></p></div>`);
});
document.addEventListener("htmx:configRequest", (event) => {
  const form = event.detail.elt.closest("form");
  if (form && event.detail.verb === "post") {
    giveKey(form);
    if (form.elements["client_key"]) event.detail.parameters["client_key"] = form.elements["client_key"].value;
  }
});

// What a field proposes is replaced by what is typed, as after Tab.
const picked = (field) => {
  if (field?.type === "text" && field === document.activeElement && field.value === field.defaultValue) field.select();
};
document.addEventListener("DOMContentLoaded", () => {
  const wrong = document.querySelector(".is-wrong input"); // a page that came back: the hand goes on where it is asked again
  const first = wrong || document.querySelector("[autofocus]");
  if (first && document.activeElement === document.body) first.focus({ preventScroll: !wrong });
  if (first && !wrong && !location.hash) scrollTo(0, 0); // a page opens at its top; typing brings the field into sight
  picked(first);
});
// An address that names a place on the page takes the hand out of the field again, once all is loaded.
addEventListener("load", () => setTimeout(() => {
  const place = location.hash ? document.getElementById(location.hash.slice(1)) : null;
  const chosen = place?.matches("form") ? place.querySelector("input:checked, select, input:not([type=hidden])") : null;
  const first = place ? document.querySelector("[autofocus]") || chosen : null;
  if (!first || document.activeElement !== document.body) return;
  first.focus({ preventScroll: true });
  picked(first);
}));

// After a part of the page was redrawn, the hand goes on where it was meant to.
document.addEventListener("htmx:afterSettle", (event) => {
  const nobody = () => (document.activeElement || document.body) === document.body || !document.activeElement.getClientRects().length;
  const beside = event.detail.elt.closest("#sheet-answer, #working, #compared, #answer, #understood");
  if (beside && !nobody()) return; // the hand is in a field, and stays there
  const stop = document.querySelector("#working:not(:empty) + .dr-key");
  if (beside && stop) {
    stop.focus();
    return;
  }
  const scope = beside || document.querySelector("#act #small-form") || document;
  const wanted = scope.querySelector("[autofocus]");
  if (wanted && document.activeElement !== wanted) {
    wanted.focus();
    picked(wanted);
  }
  else if (!wanted && nobody()) document.getElementById("main")?.focus({ preventScroll: true });
});

// A question that one choice of its form makes idle is not asked: data-when="kind mill lathe".
const ask = () =>
  document.querySelectorAll("[data-when]").forEach((box) => {
    const [name, ...values] = box.dataset.when.split(" ");
    box.hidden = !values.includes(new FormData(box.closest("form")).get(name));
    box.querySelectorAll("input, select").forEach((field) => (field.disabled = box.hidden));
  });
document.addEventListener("change", ask);
ask();

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) print();
  const copy = event.target.closest("[data-copy]");
  if (copy) {
    const text = document.getElementById(copy.dataset.copy);
    text.select(); // on plain http there is no clipboard of its own; the selection is copied the old way
    document.getElementById("copied").textContent = document.execCommand("copy") ? "Copied." : "Selected: press Ctrl C.";
  }
  const fill = event.target.closest("[data-fill-form]");
  if (fill) {
    const form = document.getElementById(fill.dataset.fillForm);
    for (const [name, value] of Object.entries(JSON.parse(fill.dataset.values))) form.elements[name].value = value;
    form.elements["name"].focus();
  }
});

// What was typed and not sent outlives a look at another page, and another key of the same page: it is brought back, and said.
import { sayAgain } from "./said.js";

const keyOf = (form) => `ditto-draft ${location.pathname}${location.search} ${form.id}`;
const forms = () => [...document.querySelectorAll("main form.entry-form[id][method=post]")].filter((form) => !form.closest("#board"));
const fields = (form) => [...form.elements].filter((field) => field.name && !["hidden", "file", "password"].includes(field.type));
const ticked = (field) => field.type === "checkbox" || field.type === "radio";
const asDrawn = (field) =>
  field.options ? [...field.options].every((option) => option.selected === option.defaultSelected || (!field.querySelector("[selected]") && option.index === 0 && option.selected))
  : ticked(field) ? field.checked === field.defaultChecked
  : field.value === field.defaultValue;

const keep = (sent) =>
  forms().forEach((form) => {
    const typed = form === sent ? [] : fields(form).map((field, at) => [at, field]).filter(([, field]) => !asDrawn(field));
    if (!typed.length) sessionStorage.removeItem(keyOf(form));
    else sessionStorage.setItem(keyOf(form), JSON.stringify(typed.map(([at, field]) => [at, field.name, ticked(field) ? field.checked : field.value])));
  });

const bringBack = () => {
  let any = false;
  forms().forEach((form) => {
    const draft = JSON.parse(sessionStorage.getItem(keyOf(form)) || "[]");
    const there = fields(form);
    draft.forEach(([at, name, value]) => {
      const field = there[at];
      if (field?.name !== name || !asDrawn(field)) return; // the form asks for something else by now
      if (ticked(field)) field.checked = value;
      else field.value = value;
      field.dispatchEvent(new Event("input", { bubbles: true }));
      field.dispatchEvent(new Event("change", { bubbles: true }));
      any = true;
    });
  });
  if (any) setTimeout(() => sayAgain("What you had typed here is back."), 300);
};

// A form that the browser sends itself leaves the page with what was typed: that is no draft.
let leaving = null;
document.addEventListener("submit", (event) => (leaving = event.target));
document.addEventListener("htmx:afterRequest", () => (leaving = null));
addEventListener("pagehide", () => keep(leaving));
document.addEventListener("htmx:beforeSwap", (event) => {
  const { xhr, requestConfig, target } = event.detail;
  if (xhr.status < 400 && target.id === "app") keep(requestConfig.elt.closest("form"));
});
document.addEventListener("htmx:afterSettle", (event) => {
  if ((event.detail.target?.id || event.detail.elt?.id) === "app") bringBack();
});
// Who leaves an entry does not want it back.
document.addEventListener("click", (event) => {
  const link = event.target.closest("form.entry-form a");
  if (link && (link.dataset.leave !== undefined || link.textContent.trim().startsWith("Leave it"))) link.closest("form").reset();
});
bringBack();

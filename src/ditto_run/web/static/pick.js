// A feature is picked in the picture as it is in the list: both open it. Fingers and mice only; the list is there for keys and ears.
document.addEventListener("click", (event) => {
  const picked = event.target.closest(".part-picture [data-pick]");
  if (picked && picked.dataset.pick !== "0") location.search = `?edit=${picked.dataset.pick}`;
});

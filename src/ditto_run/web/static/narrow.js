// The server draws for one layout; every page says which, before the first drawing is asked for.
export const narrow = matchMedia("(max-width: 900px)");
const sayLayout = () => (document.cookie = `layout=${narrow.matches ? "tall" : "wide"};path=/;max-age=31536000;samesite=strict`);
sayLayout();
narrow.addEventListener("change", sayLayout);

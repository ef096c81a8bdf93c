// The page's one clock: it ticks with each second of a time that runs, and stands while nobody can see it.
export const everySecond = (work, now) => {
  let timer = 0;
  const tick = () => {
    clearTimeout(timer);
    if (document.hidden) return;
    work();
    timer = setTimeout(tick, 1000 - (now() % 1000));
  };
  document.addEventListener("visibilitychange", tick);
  tick();
};

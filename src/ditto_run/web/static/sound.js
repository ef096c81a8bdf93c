// Two tones a reading, and the app's voice. Both need a first tap; both can be had without the other.
let context = null;
const on = (name) => localStorage.getItem("ditto-" + name) === "on";
const LENGTH = 0.12, GAP = 0.06, MASTER = 440;

const beep = (at, hertz, rough) => {
  const tone = context.createOscillator();
  const gain = context.createGain();
  tone.type = rough ? "sawtooth" : "sine";
  tone.frequency.setValueAtTime(hertz, at);
  gain.gain.setValueAtTime(0.2, at);
  tone.connect(gain).connect(context.destination);
  tone.start(at);
  tone.stop(at + LENGTH);
};

// The two strokes of the ditto: the master, then the piece; outside, the second one is doubled and rough.
export const tones = (hertz, rough) => {
  if (!on("tones")) return;
  context = context || new AudioContext();
  const start = context.currentTime + 0.02;
  beep(start, MASTER, false);
  beep(start + LENGTH + GAP, hertz, rough);
  if (rough) beep(start + 2 * (LENGTH + GAP), hertz, true);
};

export const say = (text, force) => {
  if (!text || !(on("voice") || force) || !window.speechSynthesis) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(text));
};

const show = () =>
  document.querySelectorAll("[data-sound]").forEach((button) => {
    button.setAttribute("aria-pressed", String(on(button.dataset.sound)));
    const kbd = button.querySelector("kbd").outerHTML;
    button.innerHTML = `${kbd} ${button.dataset.sound} ${on(button.dataset.sound) ? "on" : "off"}`;
  });

document.addEventListener("click", (event) => {
  const button = event.target.closest("[data-sound]");
  if (!button) return;
  localStorage.setItem("ditto-" + button.dataset.sound, on(button.dataset.sound) ? "off" : "on");
  show();
  if (button.dataset.sound === "tones") tones(MASTER, false);
  else say("Voice on.");
});
show();
document.addEventListener("htmx:afterSettle", show);

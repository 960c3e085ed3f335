// Tapping a tempo and marking bars against a watch: the taps go to the server, which does the arithmetic.
import { clock, seconds } from "./clock.js";
import { post } from "./page.js";
const by = (id) => document.getElementById(id);
for (const id of ["tapping", "marking"]) by(id).hidden = false;

/** @type {HTMLAudioElement | null} */
const sound = by("sound");
let taps = [];
let asked = 0;
async function tapped() {
  const turn = ++asked;
  // While the sound plays its own clock counts, at whatever speed it is heard.
  taps.push(sound && !sound.paused ? sound.currentTime : performance.now() / 1000);
  if (taps.length < 4) {
    by("tap-words").textContent = `${taps.length} of at least 4 taps.`;
    return;
  }
  const answer = await post("/api/time/tempo", { taps });
  const told = await answer?.json();
  if (!answer || !told || turn !== asked) return;
  by("tapped").textContent = answer.ok ? told.bpm.toFixed(1) : "–";
  by("tap-words").textContent = answer.ok
    ? `${told.low.toFixed(1)} to ${told.high === null ? "?" : told.high.toFixed(1)}, ${told.used} taps${told.dropped ? `, ${told.dropped} dropped` : ""}`
    : told.detail;
  by("tap-take").hidden = !answer.ok;
  if (answer.ok) by("tap-take").href = `${by("tap-take").dataset.address}?tempo=${told.bpm.toFixed(1)}`;
}
by("tap").addEventListener("pointerdown", (event) => { event.preventDefault(); tapped(); });
by("tap").addEventListener("click", (event) => { if (event.detail === 0) tapped(); });
by("tap-again").addEventListener("click", () => {
  taps = [];
  by("tapped").textContent = "–";
  by("tap-words").textContent = "Tap at least four beats along.";
});

// The watch runs beside a turntable or a film, from the clock time that is typed.
/** @type {number | null} */
let started = null;
const now = () => (sound ? sound.currentTime : watched());
const watched = () => seconds(by("watch-from").value || "0") + (performance.now() - (started ?? performance.now())) / 1000;

function run() {
  if (sound) return sound.paused ? sound.play() : sound.pause();
  if (started === null) {
    started = performance.now();
    by("run").firstChild.textContent = "Stop the watch ";
    (function show() {
      if (started === null) return;
      by("watch").textContent = clock(now()).slice(0, -2);
      requestAnimationFrame(show);
    })();
  } else {
    by("watch-from").value = clock(now());
    started = null;
    by("run").firstChild.textContent = "Start the watch ";
  }
}
if (sound) {
  sound.preservesPitch = true;
  for (const name of ["play", "pause"]) sound.addEventListener(name, () => { by("run").firstChild.textContent = sound.paused ? "Play the sound " : "Stop the sound "; });
  by("speed").addEventListener("change", () => { sound.playbackRate = Number(by("speed").value) / 100; });
  by("watch-from").addEventListener("change", () => { const at = seconds(by("watch-from").value); if (at >= 0) sound.currentTime = at; });
  (function show() {
    by("watch").textContent = clock(sound.currentTime).slice(0, -2);
    requestAnimationFrame(show);
  })();
}
by("run").addEventListener("click", run);

function mark() {
  if (sound ? sound.paused : started === null) run();
  const marks = by("Marks");
  const [bar, step] = [Number(by("next-bar").value), Number(by("step").value)];
  marks.value = `${marks.value.trimEnd()}${marks.value.trim() ? "\n" : ""}${bar} ${clock(now())}`;
  marks.scrollTop = marks.scrollHeight;
  by("next-bar").value = bar + step;
  marks.dispatchEvent(new Event("input", { bubbles: true }));
}
by("mark").addEventListener("pointerdown", (event) => { event.preventDefault(); mark(); });
by("mark").addEventListener("click", (event) => { if (event.detail === 0) mark(); });

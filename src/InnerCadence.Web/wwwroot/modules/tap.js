// Tapping a tempo and marking bars against a watch: the taps go to the server, which does the arithmetic.
import { clock, seconds } from "./clock.js";
import { deck } from "./deck.js";
import { post } from "./page.js";
import { placeIn, rail } from "./rail.js";
const by = (id) => document.getElementById(id);
for (const id of ["tapping", "marking"]) by(id).hidden = false;

/** @type {HTMLAudioElement | null} */
const audio = by("sound");
/** The loop that is heard over and over while bars are tapped: from the typed clock on, so many seconds. */
function span() {
  const [from, length] = [seconds(by("watch-from").value) || 0, Number(by("over-seconds").value)];
  return by("over").checked && length > 0.1 ? { from, to: from + length } : null;
}
const sound = audio && deck(audio, {
  record: audio.dataset.record, span, speed: () => Number(by("speed").value), part: () => by("part").value,
  leave: () => { by("over").checked = false; }, tell: (words) => { by("sound-said").textContent = words; }, changed: () => shown(),
});
const [bars, sections] = ["bars", "sections"].map((told) => JSON.parse(by("strip")?.dataset[told] ?? "[]"));
/** Clock times of the marks as they are typed, in seconds. */
const marked = () => by("Marks").value.split("\n").map((line) => seconds(line.trim().split(/\s+/)[1] ?? "")).filter((at) => at >= 0);
const line = sound && by("strip") && rail(by("strip"), {
  plays: sound.plays, here: sound.here, rate: () => Number(by("speed").value) / 100, span, go: sound.go, marks: marked,
  set: (drawn, done) => {
    [by("watch-from").value, by("over-seconds").value, by("over").checked] = [clock(Math.max(0, drawn.from)), (drawn.to - drawn.from).toFixed(2), true];
    if (done) sound.renew();
  },
});
const shown = () => { by("run").firstChild.textContent = sound?.plays() ? "Stop the sound " : "Play the sound "; };
let taps = [];
let asked = 0;
async function tapped() {
  const turn = ++asked;
  // While the sound plays its own clock counts, at whatever speed it is heard.
  taps.push(sound?.plays() ? sound.here() : performance.now() / 1000);
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
const now = () => (sound ? sound.here() : watched());
const watched = () => seconds(by("watch-from").value || "0") + (performance.now() - (started ?? performance.now())) / 1000;

function run() {
  if (sound) return sound.plays() ? sound.stop() : sound.start();
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
if (audio && sound) {
  for (const name of ["play", "pause"]) audio.addEventListener(name, shown);
  for (const id of ["speed", "part", "over", "over-seconds"]) by(id).addEventListener("input", () => {
    by("speed-said").textContent = `${by("speed").value} %`;
    sound.renew();
    line?.draw();
  });
  by("watch-from").addEventListener("change", () => {
    const at = seconds(by("watch-from").value);
    if (at >= 0) sound.go(at);
    sound.renew();
    line?.draw();
  });
  (function show() {
    by("watch").textContent = clock(sound.here()).slice(0, -2);
    by("at-bar").textContent = placeIn(bars, sections, sound.here());
    line?.show();
    requestAnimationFrame(show);
  })();
  by("Marks").addEventListener("input", () => line?.draw());
}
by("run").addEventListener("click", run);

function mark() {
  if (sound ? !sound.plays() : started === null) run();
  const marks = by("Marks");
  const [bar, step] = [Number(by("next-bar").value), Number(by("step").value)];
  marks.value = `${marks.value.trimEnd()}${marks.value.trim() ? "\n" : ""}${bar} ${clock(now())}`;
  marks.scrollTop = marks.scrollHeight;
  by("next-bar").value = bar + step;
  marks.dispatchEvent(new Event("input", { bubbles: true }));
}
by("mark").addEventListener("pointerdown", (event) => { event.preventDefault(); mark(); });
by("mark").addEventListener("click", (event) => { if (event.detail === 0) mark(); });

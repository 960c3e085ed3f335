// Tapping a tempo and marking bars against a watch: the taps go to the server, which does the arithmetic.
import { clock, seconds } from "./clock.js";
import { deck } from "./deck.js";
import { post } from "./page.js";
import { placeIn, rail } from "./rail.js";
import { transport } from "./transport.js";
const by = (id) => document.getElementById(id);
for (const id of ["tapping", "marking"]) by(id).hidden = false;

/** @type {HTMLAudioElement | null} */
const audio = by("sound");
/** The loop that is heard over and over while bars are tapped: from the typed clock on, so many seconds. */
function span() {
  const [from, length] = [seconds(by("watch-from").value) || 0, Number(by("over-seconds").value)];
  return hand?.looped() && length > 0.1 ? { from, to: from + length } : null;
}
const hand = audio && transport(by("transport"), { toggle: run, stop: () => sound?.stop(), changed: renew });
const sound =
  audio &&
  hand &&
  deck(audio, by("transport"), hand, {
    record: audio.dataset.record,
    span,
    tell: (words) => {
      by("sound-said").textContent = words;
    },
  });
const [bars, sections] = ["bars", "sections"].map((told) => JSON.parse(by("strip")?.dataset[told] ?? "[]"));
/** Clock times of the marks as they are typed, in seconds. */
const marked = () =>
  by("Marks")
    .value.split("\n")
    .map((line) => seconds(line.trim().split(/\s+/)[1] ?? ""))
    .filter((at) => at >= 0);
const line =
  sound &&
  by("strip") &&
  rail(by("strip"), {
    plays: sound.plays,
    here: sound.here,
    rate: sound.rate,
    span,
    go: sound.go,
    marks: marked,
    set: (drawn, done) => {
      [by("watch-from").value, by("over-seconds").value] = [clock(Math.max(0, drawn.from)), (drawn.to - drawn.from).toFixed(2)];
      hand?.switch(true);
      if (done) sound.renew();
    },
  });
function renew() {
  sound?.renew();
  line?.draw();
}
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
by("tap").addEventListener("pointerdown", (event) => {
  event.preventDefault();
  tapped();
});
by("tap").addEventListener("click", (event) => {
  if (event.detail === 0) tapped();
});
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
  by("over-seconds").addEventListener("input", renew);
  by("watch-from").addEventListener("change", () => {
    const at = seconds(by("watch-from").value);
    if (at >= 0) sound.go(at);
    renew();
  });
  (function show() {
    hand?.place(`${clock(sound.here()).slice(0, -2)} ${placeIn(bars, sections, sound.here())}`);
    line?.show();
    requestAnimationFrame(show);
  })();
  by("Marks").addEventListener("input", () => line?.draw());
}
by("run")?.addEventListener("click", run);

function mark() {
  if (sound ? !sound.plays() : started === null) run();
  const marks = by("Marks");
  const [bar, step] = [Number(by("next-bar").value), Number(by("step").value)];
  marks.value = `${marks.value.trimEnd()}${marks.value.trim() ? "\n" : ""}${bar} ${clock(now())}`;
  marks.scrollTop = marks.scrollHeight;
  by("next-bar").value = bar + step;
  marks.dispatchEvent(new Event("input", { bubbles: true }));
}
by("mark").addEventListener("pointerdown", (event) => {
  event.preventDefault();
  mark();
});
by("mark").addEventListener("click", (event) => {
  if (event.detail === 0) mark();
});

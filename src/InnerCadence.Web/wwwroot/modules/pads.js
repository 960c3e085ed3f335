// Pads, keys or a simulated kit play along with what the player plays; the server scores every round. What a note means it says too.
import { away, post } from "./page.js";
import { clockwork } from "./rounds.js";

const by = (id) => document.getElementById(id);
const root = by("pads");
const player = document.querySelector("[data-player]");
const kept = "inner-cadence pad lateness";
const late = () => Number(localStorage.getItem(kept) ?? 0);
/** @typedef {{at: number, note?: number, voice?: string, velocity: number | null}} Struck */
/** @type {{when: number, rate: number, strokes: Struck[], scored: number} | null} */
let run = null;
/** @type {((at: number) => void) | null} While the lateness is measured strokes go there. */
let measuring = null;
root.hidden = false;
by("pads-late").textContent = late() ? `${late()} ms are taken off.` : "";

/** The audio clock at a moment of the browser's own. @param {number} stamp In milliseconds. */
const clockAt = (stamp) => clockwork().currentTime - (performance.now() - stamp) / 1000;

/** @param {number} stamp @param {Partial<Struck>} what */
function struck(stamp, what) {
  const at = clockAt(stamp);
  if (measuring) {
    measuring(at);
    return;
  }
  if (!run) return;
  run.strokes.push({ at: (at - run.when) * run.rate, velocity: null, ...what });
  by("pads-hit").textContent = String(run.strokes.length);
}

async function connect() {
  if (!navigator.requestMIDIAccess) {
    by("pads-said").textContent = "This browser has no MIDI: use the keys, or another browser.";
    return;
  }
  try {
    const access = await navigator.requestMIDIAccess();
    const hear = () => {
      const inputs = [...access.inputs.values()];
      for (const input of inputs)
        input.onmidimessage = (event) => {
          const [status, note, velocity] = event.data ?? [];
          if ((status & 0xf0) === 0x90 && velocity > 0) struck(event.timeStamp, { note, velocity });
        };
      by("pads-said").textContent = inputs.length ? `Heard: ${inputs.map((input) => input.name).join(", ")}.` : "No pads are plugged in.";
    };
    access.onstatechange = hear;
    hear();
  } catch {
    by("pads-said").textContent = "The browser does not let this page hear MIDI: allow it.";
  }
}

// Keys are pads only while somebody plays along and wants them to be, so that the page's own keys stay.
const keys = new Map([...root.querySelectorAll("[data-pad]")].map((pad) => [pad.dataset.code, pad.dataset.pad]));
document.addEventListener(
  "keydown",
  (event) => {
    const voice = keys.get(event.code);
    if (
      !voice ||
      !(measuring || (run && by("pads-keys").checked)) ||
      event.repeat ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      /** @type {HTMLElement} */ (event.target).matches("input:not([type=checkbox]), select, textarea")
    )
      return;
    event.preventDefault();
    event.stopImmediatePropagation();
    struck(event.timeStamp, { voice });
  },
  true,
);
for (const pad of root.querySelectorAll("[data-pad]"))
  pad.addEventListener("pointerdown", (event) => {
    event.preventDefault();
    struck(event.timeStamp, { voice: pad.dataset.pad });
  });

player.addEventListener("begins", (event) => {
  const { when, rate } = /** @type {CustomEvent} */ (event).detail;
  run = { when, rate, strokes: [], scored: 0 };
  by("pads-rounds").replaceChildren();
  if (by("pads-simulated").checked) simulate();
});
new MutationObserver(() => {
  if (player.dataset.state === "still" && run) {
    const done = run;
    score(done).then(() => {
      if (run === done) run = null;
    });
  }
}).observe(player, { attributes: true, attributeFilter: ["data-state"] });

const round = () => JSON.parse(player.dataset.round ?? "[]"); // seconds of the bar lines of a round
/** How many rounds are over, with a moment for late strokes. */
function over(now) {
  const lines = round();
  const length = lines.length > 1 ? lines[lines.length - 1] - lines[0] : 0;
  return length > 0 && run ? Math.max(0, Math.floor(((clockwork().currentTime - now.when) * now.rate - 0.12) / length)) : 0;
}

/** @param {NonNullable<typeof run>} now */
async function score(now) {
  const rounds = over(now);
  if (rounds <= now.scored) return;
  const first = now.scored;
  now.scored = rounds;
  const lines = round();
  const answer = await post("/api/practice/played", {
    text: root.dataset.text,
    rounds,
    lateMs: late() * now.rate,
    strokes: now.strokes,
    lines: lines.map((line) => line - lines[0]),
  });
  if (!answer?.ok) {
    by("pads-said").textContent = answer ? (await answer.json()).detail : away("nothing is scored.");
    now.scored = first;
    return;
  }
  const { rounds: told } = await answer.json();
  for (const [i, one] of told.entries()) {
    if (i < first) continue;
    const line = document.createElement("li");
    line.className = one.clean ? "" : "near";
    const late = one.meanMs === null ? ""
      : ` (${Math.abs(Math.round(one.meanMs))} ms ${one.meanMs < 0 ? "early" : "late"} on the whole)`;
    line.textContent = `${i + 1}: ${one.clean ? "clean, " : ""}${one.words}${late}`;
    by("pads-rounds").prepend(line);
    // At the kit a round that was scored is judged, where somebody asks for it.
    if (by("pads-judge")?.checked) by(one.clean ? "one" : "missed").click();
  }
}
setInterval(() => {
  if (run) score(run);
}, 250);

/** A player with human error, for a machine without pads: strokes of the text a little early, late or left out. */
async function simulate() {
  const now = run;
  const answer = await post("/api/sound/performance", {
    text: root.dataset.text,
    tempo: Number(player.dataset.tempo) || null,
    looped: true,
    lines: round().length > 1 ? round() : null,
  });
  if (!answer?.ok || !now) return;
  const { notes, length } = await answer.json();
  for (let lap = 0; run === now && lap < 400; lap++) {
    for (const note of notes) {
      const bell = (Math.random() + Math.random() + Math.random() - 1.5) * 0.02;
      if (Math.random() > 0.02)
        now.strokes.push({
          at: lap * length + note.at + bell,
          voice: note.voice,
          velocity: Math.max(
            1,
            Math.min(127, Math.round(127 * (note.ghost ? 0.25 : /-accent-/.test(note.sound) ? 0.9 : 0.6) + 10 * Math.random())),
          ),
        });
    }
    while (run === now && clockwork().currentTime < now.when + ((lap + 0.9) * length) / now.rate)
      await new Promise((go) => setTimeout(go, 100));
  }
}

// Else the space bar, which may be a pad, would take the tick away again.
by("pads-keys").addEventListener("change", () => by("pads-keys").blur());
by("pads-connect").addEventListener("click", connect);
// Eight clicks, a stroke on each: the middle of what they are late is taken off from then on.
by("pads-measure").addEventListener("click", async () => {
  const context = clockwork();
  await context.resume();
  const [begin, every] = [context.currentTime + 0.6, 0.6];
  /** @type {number[]} */
  const offs = [];
  measuring = (at) => offs.push(at - begin - Math.round((at - begin) / every) * every);
  for (let i = 0; i < 8; i++) {
    const tone = new OscillatorNode(context, { frequency: i % 4 ? 1400 : 2000 });
    tone.connect(context.destination);
    tone.start(begin + i * every);
    tone.stop(begin + i * every + 0.03);
  }
  by("pads-late").textContent = "A stroke on each of the eight clicks.";
  await new Promise((go) => setTimeout(go, 8 * every * 1000 + 900));
  measuring = null;
  if (offs.length < 5) {
    by("pads-late").textContent = `${offs.length} strokes are too few: strike on each click.`;
    return;
  }
  const middle = Math.round(offs.sort((a, b) => a - b)[Math.floor(offs.length / 2)] * 1000);
  localStorage.setItem(kept, String(middle));
  by("pads-late").textContent = `${middle} ms are taken off.`;
});

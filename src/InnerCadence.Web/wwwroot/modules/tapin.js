// Tapping a line in: a key, a pad or a finger along the click or the recording; the server proposes the counts.
import { page } from "./bench.js";
import { seconds } from "./clock.js";
import { away, post } from "./page.js";

const by = (id) => document.getElementById(id);
const [part, voice, button, pad, said, proposal, put, recording] = [
  "tapin",
  "tap-voice",
  "tap-start",
  "tap-pad",
  "tap-said",
  "tap-proposal",
  "tap-put",
  "tap-recording",
].map(by);
/** @type {AudioContext} */
let context;
/** @type {{zero: number, taps: number[], loud: (number | null)[], clicks?: number, sound?: HTMLMediaElement} | null} */
let run = null;
/** How far each stroke of the proposal was tapped from its place. @type {[number, string, number, number | null][]} */
let played = [];

/** Where the passage starts in the recording, in seconds: as it is typed now, else as the page began. */
const startsAt = () => {
  const typed = seconds(by("Input_StartsAt").value.split(/[-–]/)[0]);
  return Number.isNaN(typed) ? Number(part.dataset.from) : typed;
};
const tempo = () => page.last().tempo ?? (Number(part.dataset.tempo) || null);
const now = () => run?.sound?.currentTime ?? context.currentTime;

async function start() {
  proposal.hidden = true;
  put.hidden = true;
  if (recording?.checked) {
    const sound = by("tap-sound");
    const from = startsAt();
    sound.playbackRate = Number(document.querySelector("[data-part=speed]")?.value ?? 100) / 100;
    sound.currentTime = Math.max(0, from - 2);
    await sound.play();
    run = { sound, zero: from, taps: [], loud: [] };
  } else {
    const answer = await post("/api/count-lines/clicks", { text: page.text.value, tempo: tempo() });
    if (!answer?.ok) {
      said.textContent = (await answer?.json())?.detail ?? away("start again when it does.");
      return;
    }
    const { clicks } = await answer.json();
    context ??= new AudioContext();
    await context.resume();
    const zero = context.currentTime + 0.15 - clicks[0].at;
    let next = 0;
    run = { zero, taps: [], loud: [], clicks: setInterval(click, 60) };
    function click() {
      for (; run && next < clicks.length && zero + clicks[next].at < context.currentTime + 0.2; next++) {
        const at = Math.max(zero + clicks[next].at, context.currentTime);
        const tone = new OscillatorNode(context, { frequency: clicks[next].first ? 1500 : 1000 });
        const level = new GainNode(context, { gain: 0.25 });
        tone.connect(level).connect(context.destination);
        level.gain.setTargetAtTime(0, at + 0.02, 0.01);
        tone.start(at);
        tone.stop(at + 0.1);
      }
    }
  }
  button.textContent = "Stop tapping";
  said.textContent = recording?.checked
    ? "The recording starts two seconds before the passage. Tap along."
    : "One bar is counted in. Tap along with J, F, the pad or a MIDI pad.";
  pad.focus();
}

async function stop() {
  if (!run) return;
  const { zero, taps, loud, clicks, sound } = run;
  clearInterval(clicks);
  sound?.pause();
  run = null;
  button.textContent = "Start tapping";
  if (!taps.length) {
    said.textContent = "Nothing was tapped.";
    return;
  }
  const answer = await post("/api/count-lines/tapped", {
    text: page.text.value,
    voice: voice.value,
    onsets: taps.map((at) => at - zero),
    loudness: loud.every((value) => value !== null) ? loud : null,
    tempo: tempo(),
  });
  const told = await answer?.json();
  if (!answer?.ok) {
    said.textContent = told?.detail ?? away("tap again when it does.");
    return;
  }
  said.textContent = `${told.strokes} strokes of ${taps.length} taps${told.weak ? `; ${told.weak} could lie elsewhere and ${
      told.weak === 1 ? "has" : "have"} a ?` : ""}.`;
  proposal.textContent = told.text;
  played = told.played;
  proposal.hidden = false;
  put.hidden = false;
  put.focus();
}

/** @param {Event} [event] @param {number | null} [loudness] As a pad tells it, 0 to 1. */
function tap(event, loudness = null) {
  event?.preventDefault();
  if (!run) return;
  run.taps.push(now());
  run.loud.push(loudness);
  said.textContent = `${run.taps.length} taps`;
  pad.classList.toggle("hit");
}

button.addEventListener("click", () => (run ? stop() : start()));
pad.addEventListener("pointerdown", (event) => tap(event));
part.addEventListener("keydown", (event) => {
  if (event.repeat || !run || event.ctrlKey || event.altKey) return;
  if (event.key.toLowerCase() === "j" || event.key.toLowerCase() === "f") {
    event.stopPropagation();
    tap(event);
  }
});
put.addEventListener("click", () => {
  const kept = /** @type {HTMLInputElement} */ (document.querySelector("[name='Input.Played']"));
  const before = JSON.parse(kept.value || "[]").filter(([at, code]) => !played.some(([tick, voice]) => tick === at && voice === code));
  kept.value = JSON.stringify([...before, ...played]);
  page.write(proposal.textContent);
  proposal.hidden = true;
  put.hidden = true;
  said.textContent = "Put in. Ctrl and Z in the text takes it back.";
});
// A pad that the browser reaches: every note struck is a tap.
part.addEventListener(
  "toggle",
  async () => {
    if (!part.open || !navigator.requestMIDIAccess) return;
    const midi = await navigator.requestMIDIAccess().catch(() => null);
    for (const input of midi?.inputs.values() ?? []) {
      input.onmidimessage = ({ data }) => {
        if (data && (data[0] & 0xf0) === 0x90 && data[2] > 0) tap(undefined, data[2] / 127);
      };
    }
  },
  { once: true },
);

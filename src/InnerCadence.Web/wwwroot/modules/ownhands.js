// The microphone records what is played along with a passage; where its bars lie in the take follows from the one audio clock.
import { away } from "./page.js";
import { clockwork } from "./rounds.js";

const by = (id) => document.getElementById(id);
const root = by("own-hands");
const player = document.querySelector("[data-player]");
const kept = "inner-cadence lateness";
const [take, says, said, lateSaid] = ["take", "take-says", "take-said", "late-said"].map(by);
// As it is struck: nothing that a browser would do for a voice on the telephone.
const raw = { audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } };
const late = () => Number(localStorage.getItem(kept) ?? 0);
const showLate = () => {
  lateSaid.textContent = late() ? `${late()} ms are taken off.` : "";
};
root.hidden = false;
showLate();

/** @type {{recorder: MediaRecorder, parts: Blob[], began: number, first: number | null, rate: number, stream: MediaStream} | null} */
let run = null;

async function listen() {
  const stream = await navigator.mediaDevices.getUserMedia(raw);
  const recorder = new MediaRecorder(stream);
  /** @type {Blob[]} */
  const parts = [];
  recorder.addEventListener("dataavailable", (event) => parts.push(event.data));
  const began = await new Promise((go) => {
    recorder.addEventListener("start", () => go(performance.now()), { once: true });
    recorder.start();
  });
  return { recorder, parts, began, stream };
}

const ended = (recorder) =>
  new Promise((go) => {
    recorder.addEventListener("stop", go, { once: true });
    recorder.stop();
  });

player.addEventListener("begins", (event) => {
  const { when, rate } = /** @type {CustomEvent} */ (event).detail;
  if (!run) return;
  run.first = (performance.now() - run.began) / 1000 + when - clockwork().currentTime - late() / 1000;
  run.rate = rate;
});

async function start() {
  try {
    run = { ...(await listen()), first: null, rate: 1 };
  } catch {
    said.textContent = "The browser has no microphone for this page: allow it, or plug one in.";
    return;
  }
  says.textContent = "Stop";
  said.textContent = "Recording.";
  const counted = player.querySelector("[data-part=count-in]");
  const click = player.querySelector("[data-part=click]");
  [counted.checked, click.checked] = [true, true];
  if (player.dataset.state !== "playing") player.querySelector("[data-part=play]").click();
}

async function stop() {
  if (!run) return;
  const done = run;
  run = null;
  says.textContent = "Record";
  await ended(done.recorder);
  for (const track of done.stream.getTracks()) track.stop();
  const lasted = (performance.now() - done.began) / 1000;
  const round = JSON.parse(player.dataset.round ?? "[]"); // seconds of the bar lines of a round, at the record's or the text's tempo
  if (player.dataset.state === "playing") player.querySelector("[data-part=play]").click();
  const body = new FormData(/** @type {HTMLFormElement} */ (by("take-form")));
  body.set("file", new Blob(done.parts, { type: done.recorder.mimeType }), "own-hands.webm");
  const marks = [];
  if (done.first !== null && round.length > 1) {
    const length = (round[round.length - 1] - round[0]) / done.rate;
    for (let lap = 0; done.first + lap * length < lasted; lap++)
      for (const line of round.slice(0, -1)) {
        const at = done.first + lap * length + (line - round[0]) / done.rate;
        if (at >= 0 && at < lasted) marks.push(at.toFixed(3));
      }
  }
  body.set("marks", marks.join(" "));
  body.set("bpm", String(Number(player.dataset.bpm ?? 0) * done.rate || ""));
  await send(body);
}

/** A take stays here until the server has it. @param {FormData} body */
async function send(body) {
  const answer = await fetch(`/passages/${root.dataset.passage}/own-hands`, { method: "POST", body }).catch(() => null);
  if (!answer?.ok) {
    said.textContent = `${away("the take waits here.")} `;
    const again = document.createElement("button");
    [again.type, again.className, again.id, again.textContent] = ["button", "btn small", "send-take", "Send it again"];
    again.addEventListener("click", () => {
      said.textContent = "Sending …";
      send(body);
    });
    said.append(again);
    return;
  }
  const told = await answer.json();
  said.textContent = `${told.said} `;
  if (!told.address) return;
  const link = document.createElement("a");
  [link.href, link.textContent, link.id] = [told.address, "Listen to it", "heard-take"];
  said.append(link);
}

take.addEventListener("click", () => (run ? stop() : start()));

// A click from the loudspeaker into the microphone: what passes between is taken off every take.
by("late").addEventListener("click", async () => {
  const context = clockwork();
  await context.resume();
  let heard;
  try {
    heard = await listen();
  } catch {
    lateSaid.textContent = "The browser has no microphone for this page.";
    return;
  }
  const due = 0.8;
  const at = context.currentTime + due - (performance.now() - heard.began) / 1000;
  const tone = new OscillatorNode(context, { frequency: 2000 });
  tone.connect(context.destination);
  tone.start(at);
  tone.stop(at + 0.03);
  await new Promise((go) => setTimeout(go, 1600));
  await ended(heard.recorder);
  for (const track of heard.stream.getTracks()) track.stop();
  const sound = await context.decodeAudioData(await new Blob(heard.parts).arrayBuffer()).catch(() => null);
  const samples = sound?.getChannelData(0) ?? new Float32Array();
  let [most, where] = [0, 0];
  for (let i = Math.floor(0.5 * (sound?.sampleRate ?? 1)); i < samples.length; i++)
    if (Math.abs(samples[i]) > most) [most, where] = [Math.abs(samples[i]), i];
  const off = sound ? Math.round((where / sound.sampleRate - due) * 1000) : NaN;
  if (most < 0.02 || !(off >= -50 && off < 600)) {
    lateSaid.textContent = "The click was not heard: turn the loudspeaker up, take the headphones off for it.";
    return;
  }
  localStorage.setItem(kept, String(off));
  showLate();
});

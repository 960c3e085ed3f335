// The sound at hand: loop, speed with the pitch kept, small steps, a line along the strip. And how late a hand is.
import { clock, seconds } from "./clock.js";
const by = (id) => document.getElementById(id);
const audio = by("audio");

if (audio) {
  const strip = by("strip");
  by("transport").hidden = false;
  audio.controls = false;
  audio.preservesPitch = true;
  const go = (time) => { audio.currentTime = Math.max(0, Math.min(time, audio.duration || time)); show(); };
  by("play").addEventListener("click", () => (audio.paused ? audio.play() : audio.pause()));
  for (const name of ["play", "pause"]) audio.addEventListener(name, () => { by("play").firstChild.textContent = audio.paused ? "Play " : "Pause "; });
  by("back").addEventListener("click", () => go(audio.currentTime - 5));
  by("nudge").addEventListener("click", () => go(audio.currentTime + 0.01));
  by("nudge-back").addEventListener("click", () => go(audio.currentTime - 0.01));
  by("set-from").addEventListener("click", () => { by("loop-from").value = clock(audio.currentTime); remember(); });
  by("set-to").addEventListener("click", () => { by("loop-to").value = clock(audio.currentTime); by("loop").checked = true; remember(); });
  const pace = () => {
    audio.playbackRate = by("speed").value / 100;
    by("speed-said").textContent = `${by("speed").value} %`;
  };
  by("speed").addEventListener("input", () => { pace(); remember(); });
  for (const id of ["loop-from", "loop-to", "loop"]) by(id).addEventListener("change", remember);

  /** Loop and speed stand in the address, so that it leads back to the same place at the same speed. */
  function remember() {
    const [from, to] = ["loop-from", "loop-to"].map((id) => by(id).value.trim());
    const asked = new URLSearchParams();
    if (from) asked.set("from", from.includes(":") ? from : clock(seconds(from)));
    if (to && by("loop").checked) asked.set("to", to.includes(":") ? to : clock(seconds(to)));
    if (by("speed").value !== by("speed").max) asked.set("speed", by("speed").value);
    const query = asked.toString().replaceAll("%3A", ":");
    history.replaceState(null, "", query ? `${strip.dataset.address}?${query}` : strip.dataset.address);
  }
  pace();
  const begin = seconds(by("loop-from").value);
  if (begin > 0) audio.addEventListener("loadedmetadata", () => go(begin), { once: true });
  if (begin > 0 && audio.readyState > 0) go(begin);
  audio.addEventListener("error", () => { by("sound-said").textContent = "The browser cannot play this file: attach it as WAV."; });

  function show() {
    by("at").textContent = clock(audio.currentTime);
    const svg = strip.querySelector("svg");
    const [from, to] = [Number(svg.dataset.from), Number(svg.dataset.to)];
    let line = svg.querySelector(".now");
    if (!line) {
      line = document.createElementNS("http://www.w3.org/2000/svg", "line");
      line.setAttribute("class", "now");
      svg.append(line);
    }
    const box = svg.viewBox.baseVal;
    const x = (audio.currentTime - from) / (to - from) * box.width * svg.dataset.width;
    for (const [name, value] of [["x1", x], ["x2", x], ["y1", 20], ["y2", box.height]]) line.setAttribute(name, value);
    line.setAttribute("visibility", x < 0 || x > box.width ? "hidden" : "visible");
  }

  (function watch() {
    const [from, to] = [seconds(by("loop-from").value), seconds(by("loop-to").value)];
    if (by("loop").checked && to > (from || 0) && audio.currentTime >= to) audio.currentTime = from || 0;
    show();
    requestAnimationFrame(watch);
  })();

  let down = NaN; // where a pointer went down, in pixels
  strip.addEventListener("pointerdown", (event) => { down = event.clientX; });
  strip.addEventListener("click", (event) => {
    if (event.target.closest("a") || Math.abs(event.clientX - down) > 3) return;
    const svg = strip.querySelector("svg");
    const share = (event.clientX - svg.getBoundingClientRect().left) / svg.clientWidth / svg.dataset.width;
    if (share <= 1) go(Number(svg.dataset.from) + share * (svg.dataset.to - svg.dataset.from));
  });

  // A picture that is being made comes by itself; one that only the browser can make is made here.
  if (by("hearing").dataset.overview === "wait") setTimeout(() => location.reload(), 1500);
  if (by("hearing").dataset.overview === "make") make();
}

async function make() {
  const context = new OfflineAudioContext(1, 1, 22050);
  try {
    const sound = await context.decodeAudioData(await (await fetch(audio.src)).arrayBuffer());
    const columns = new Uint8Array(Math.ceil(sound.duration * 50));
    const samples = sound.getChannelData(0);
    for (let i = 0; i < samples.length; i++) {
      const column = Math.floor(i / sound.sampleRate * 50);
      const loud = Math.min(255, Math.round(Math.abs(samples[i]) * 255));
      if (loud > columns[column]) columns[column] = loud;
    }
    let text = "";
    for (let i = 0; i < columns.length; i += 8192) text += String.fromCharCode(...columns.subarray(i, i + 8192));
    await fetch(location.pathname.replace("/listen", "/overview"), {
      method: "POST",
      headers: { "Content-Type": "application/json", RequestVerificationToken: document.querySelector('meta[name="token"]').content },
      body: JSON.stringify({ columns: btoa(text), seconds: sound.duration }),
    });
    location.reload();
  } catch {
    by("sound-said").textContent = "The browser cannot read this file, so it has no picture: attach it as WAV.";
  }
}

// Reaction: a click at uneven times; the median lateness of eight answers is kept for the next sessions.
const kept = "inner-cadence reaction";
if (by("reaction").value === "0") by("reaction").value = localStorage.getItem(kept) ?? "0";
by("measure").hidden = false;
by("measure").addEventListener("click", async () => {
  const context = new AudioContext();
  await context.resume();
  const late = [];
  /** @type {number | null} */
  let sounded = null;
  const answer = (event) => {
    if (event.type === "keydown" && event.key !== " ") return;
    event.preventDefault();
    if (sounded === null) return;
    late.push(performance.now() - sounded);
    sounded = null;
    by("measured").textContent = `${late.length} of 8`;
    if (late.length < 8) next();
    else finish();
  };
  const next = () => setTimeout(() => {
    const tone = new OscillatorNode(context, { frequency: 880 });
    tone.connect(context.destination);
    tone.start();
    tone.stop(context.currentTime + 0.05);
    sounded = performance.now();
  }, 700 + Math.random() * 1300);
  const finish = () => {
    document.removeEventListener("keydown", answer, true);
    by("measured").removeEventListener("click", answer);
    const middle = Math.round(late.sort((a, b) => a - b)[4]);
    by("reaction").value = String(middle);
    localStorage.setItem(kept, String(middle));
    by("measured").textContent = `${middle} ms; it is taken off every stamp.`;
    context.close();
  };
  document.addEventListener("keydown", answer, true);
  by("measured").textContent = "Press space at every tone, eight times.";
  by("measure").blur();
  next();
});

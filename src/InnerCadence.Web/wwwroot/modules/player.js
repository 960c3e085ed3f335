// Plays what the server says a text sounds like, on the audio clock. It knows seconds and sounds, no music.
import { mixer } from "./mixer.js";

const ahead = 0.15;
const buffers = new Map();
let context;

async function buffer(name) {
  if (!buffers.has(name)) {
    buffers.set(name, fetch(`/api/sound/voices/${name}.wav`).then((answer) => answer.arrayBuffer()).then((bytes) => context.decodeAudioData(bytes)));
  }
  return buffers.get(name);
}

/** One player: `root` holds the controls, `text()` gives what to play, `picture()` the svg along which the line moves. */
export function player(root, text, picture) {
  const find = (name) => root.querySelector(`[data-part="${name}"]`);
  const [button, speed, said, loop, click, countIn, pulse, against, climbBy, climbEvery, climbTo] =
    ["play", "speed", "said", "loop", "click", "count-in", "pulse", "against", "climb-by", "climb-every", "climb-to"].map(find);
  const section = () => picture()?.closest("section");
  const mix = mixer(root, section);
  let tracks = []; // what sounds: A, and B where two are compared
  let which = 0;
  let sounds, timer, frame, rate, origin, nextBeat, beatLap;
  let live = new Set();
  root.hidden = false;

  const percent = () => Number(speed.value);
  const seconds = () => (context.currentTime - origin) * rate;
  const atClock = (second) => origin + second / rate;

  async function perform(what, tempo) {
    const answer = await fetch("/api/sound/performance", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ text: what, tempo, click: pulse?.value || null, looped: loop.checked }),
    });
    if (!answer.ok) throw new Error(String(answer.status));
    return answer.json();
  }

  // The other one: text of the page, or a passage that the server gives.
  async function other() {
    const chosen = against?.selectedOptions[0];
    if (!chosen?.value) return null;
    return chosen.dataset.text ?? fetch(chosen.value).then((answer) => answer.text());
  }

  async function load() {
    const first = await perform(text(), Number(root.dataset.tempo) || null);
    const b = await other();
    // What is compared is heard at one tempo: that of the first.
    const second = b === null ? null : await perform(b.replace(/^\s*tempo\b.*$/gim, ""), first.tempo);
    tracks = [first, second].filter(Boolean).map((music) => ({ music, next: 0, lap: 0, out: new GainNode(context, { gain: 0 }) }));
    for (const track of tracks) track.out.connect(context.destination);
    hear(which < tracks.length ? which : 0);
    const names = new Set(tracks.flatMap(({ music }) => [...music.notes.map((note) => note.sound), ...music.click]));
    sounds = new Map(await Promise.all([...names].map(async (name) => /** @type {[string, AudioBuffer]} */ ([name, await buffer(name)]))));
    mix.show(first.voices);
    showSpeed();
  }

  function hear(i) {
    which = i;
    tracks.forEach((track, j) => track.out.gain.setTargetAtTime(i === j ? 1 : 0, context.currentTime, 0.004));
    for (const one of root.querySelectorAll("[data-hear]")) one.setAttribute("aria-pressed", Number(one.dataset.hear) === i);
  }

  function showSpeed() {
    const tempo = tracks[0]?.music.tempo ?? Number(root.dataset.tempo);
    said.textContent = tempo ? `${Math.round(tempo * percent() / 100)} of ${Math.round(tempo)} BPM` : `${percent()} %`;
  }

  function sound(name, at, gain, pan, until, out) {
    const source = new AudioBufferSourceNode(context, { buffer: sounds.get(name) });
    const level = new GainNode(context, { gain });
    source.connect(level).connect(new StereoPannerNode(context, { pan })).connect(out);
    source.start(Math.max(at, context.currentTime));
    if (until !== null) level.gain.setTargetAtTime(0, until, 0.012);
    live.add(source);
    source.addEventListener("ended", () => live.delete(source));
    root.dataset.sounded = Number(root.dataset.sounded ?? 0) + 1;
  }

  function schedule() {
    const until = () => seconds() + ahead * rate;
    for (const track of tracks) {
      const { music } = track;
      for (;;) {
        if (track.next === music.notes.length) {
          if (!loop.checked || music.length === 0) break;
          if (track === tracks[0] && (track.lap + 1) * music.length > until()) break;
          track.next = 0;
          track.lap++;
          if (track === tracks[0]) climb(track.lap);
          if (music.notes.length === 0) break;
          continue;
        }
        const note = music.notes[track.next];
        const at = track.lap * music.length + note.at;
        if (at > until()) break;
        const level = mix.level(note);
        if (level > 0) sound(note.sound, atClock(at), note.gain * level, note.pan, note.until === null ? null : atClock(track.lap * music.length + note.until), track.out);
        track.next++;
      }
    }
    const music = tracks[0].music;
    for (;;) {
      if (nextBeat === music.beats.length) {
        if (!loop.checked || music.length === 0) break;
        nextBeat = 0;
        beatLap++;
        continue;
      }
      const [beat, first] = music.beats[nextBeat];
      const at = beatLap * music.length + beat;
      if (at > until()) break;
      if (beatLap < 0 ? countIn.checked && beat < music.firstBar : click.checked) sound(music.click[first ? 1 : 0], atClock(beatLap < 0 ? beat - music.firstBar : at), 0.5, 0, null, context.destination);
      nextBeat++;
      if (beatLap < 0 && (nextBeat === music.beats.length || music.beats[nextBeat][0] >= music.firstBar)) [nextBeat, beatLap] = [0, 0];
    }
    if (!loop.checked && seconds() > music.length + 0.3) stop();
  }

  // The climb: after so many rounds a little faster, from where the last round ends.
  function climb(lap) {
    const [by, every, to] = [climbBy, climbEvery, climbTo].map((field) => Number(field?.value));
    if (!by || !every || lap % every || percent() >= to) return;
    change(Math.min(to, percent() + by), lap * tracks[0].music.length);
  }

  function change(to, at) {
    const clock = atClock(at);
    speed.value = to;
    rate = percent() / 100;
    origin = clock - at / rate;
    showSpeed();
  }

  function move() {
    frame = requestAnimationFrame(move);
    const { music } = tracks[0];
    const second = seconds() < 0 || music.length === 0 ? 0 : loop.checked ? seconds() % music.length : Math.min(seconds(), music.length);
    const i = Math.max(1, music.line.findIndex(([at]) => at > second));
    const [[a, from], [b, to]] = [music.line[i - 1], music.line[i] ?? music.line[i - 1]];
    const tick = b > a ? from + (to - from) * (second - a) / (b - a) : from;
    const shown = picture();
    if (!shown) return;
    follow(shown, tick);
    for (const svg of section()?.querySelectorAll("svg.staff, svg.ring") ?? []) if (svg !== shown) follow(svg, tick);
  }

  function follow(svg, tick) {
    let line = svg.querySelector(":scope > .now");
    if (!line) {
      line = document.createElementNS("http://www.w3.org/2000/svg", "line");
      line.setAttribute("class", "now");
      svg.append(line);
    }
    const put = (x1, y1, x2, y2) => { for (const [name, value] of Object.entries({ x1, y1, x2, y2 })) line.setAttribute(name, value); };
    if (svg.dataset.length) {
      const angle = 2 * Math.PI * tick / svg.dataset.length;
      const [middle, outer] = [Number(svg.dataset.middle), Number(svg.dataset.outer)];
      return put(middle, middle, middle + outer * Math.sin(angle), middle - outer * Math.cos(angle));
    }
    const rows = JSON.parse(svg.dataset.rows);
    const row = rows.find(([start, end]) => tick >= start && tick < end) ?? rows.at(-1);
    if (!row) return;
    const [start, end, x0, x1, y0, y1] = row;
    const x = x0 + (x1 - x0) * Math.min(1, (tick - start) / (end - start));
    put(x, y0, x, y1);
  }

  async function start() {
    context ??= new AudioContext();
    await context.resume();
    button.textContent = "Loading";
    try {
      await load();
    } catch {
      button.textContent = "Play";
      said.textContent = "The sounds cannot be loaded; is the server there?";
      return;
    }
    rate = percent() / 100;
    origin = context.currentTime + 0.1 + (countIn.checked ? tracks[0].music.firstBar / rate : 0);
    [nextBeat, beatLap] = [0, countIn.checked ? -1 : 0];
    root.dataset.state = "playing";
    button.textContent = "Stop";
    timer = setInterval(schedule, 30);
    schedule();
    move();
  }

  function stop() {
    clearInterval(timer);
    cancelAnimationFrame(frame);
    for (const source of live) source.stop();
    live = new Set();
    for (const line of section()?.querySelectorAll("svg .now") ?? []) line.remove();
    picture()?.querySelector(".now")?.remove();
    root.dataset.state = "still";
    button.textContent = "Play";
  }

  button.addEventListener("click", () => (root.dataset.state === "playing" ? stop() : start()));
  speed.addEventListener("input", () => {
    if (root.dataset.state === "playing") {
      const here = seconds();
      rate = percent() / 100;
      origin = context.currentTime - here / rate;
    }
    showSpeed();
  });
  against?.addEventListener("change", () => {
    for (const one of root.querySelectorAll("[data-hear]")) one.hidden = !against.value;
    if (root.dataset.state === "playing") { stop(); start(); }
  });
  pulse?.addEventListener("change", () => { if (root.dataset.state === "playing") { stop(); start(); } });
  for (const one of root.querySelectorAll("[data-hear]")) one.addEventListener("click", () => (tracks.length > 1 ? hear(Number(one.dataset.hear)) : (which = Number(one.dataset.hear), start())));
  showSpeed();
}

for (const root of document.querySelectorAll("[data-player]")) {
  const source = root.dataset.source ? document.getElementById(root.dataset.source) : null;
  player(root, () => source?.value ?? root.dataset.text, () => document.querySelector(`${root.dataset.picture} svg.strands`));
}

// Plays what the server says a text sounds like, on the audio clock. It knows seconds and sounds, no music.
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
  const [button, speed, said, loop, click, countIn, voices] = ["play", "speed", "said", "loop", "click", "count-in", "voices"].map(find);
  const [muted, solo] = [new Set(), new Set()];
  let music, sounds, timer, frame, rate, origin, next, lap, nextBeat, beatLap;
  let live = new Set();
  root.hidden = false;

  const percent = () => Number(speed.value);
  const seconds = () => (context.currentTime - origin) * rate;
  const atClock = (second) => origin + second / rate;

  async function load() {
    const answer = await fetch("/api/sound/performance", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ text: text(), tempo: Number(root.dataset.tempo) || null }),
    });
    music = await answer.json();
    const names = new Set([...music.notes.map((note) => note.sound), ...music.click]);
    sounds = new Map(await Promise.all([...names].map(async (name) => [name, await buffer(name)])));
    showVoices();
    showSpeed();
  }

  function showVoices() {
    voices.replaceChildren(...music.voices.flatMap(({ code, name }) => [
      toggle(name, "Mute " + name, muted, code), toggle("solo", "Solo " + name, solo, code),
    ]));
  }

  function toggle(label, title, set, code) {
    const made = document.createElement("button");
    made.type = "button";
    made.className = set === solo ? "plain solo" : "btn small";
    made.textContent = label;
    made.title = title;
    made.setAttribute("aria-label", title);
    made.setAttribute("aria-pressed", set.has(code));
    made.addEventListener("click", () => {
      if (!set.delete(code)) set.add(code);
      made.setAttribute("aria-pressed", set.has(code));
    });
    return made;
  }

  function showSpeed() {
    const tempo = music?.tempo ?? Number(root.dataset.tempo);
    said.textContent = tempo ? `${Math.round(tempo * percent() / 100)} of ${Math.round(tempo)} BPM` : `${percent()} %`;
  }

  function sound(name, at, gain, pan, until) {
    const source = new AudioBufferSourceNode(context, { buffer: sounds.get(name) });
    const level = new GainNode(context, { gain });
    source.connect(level).connect(new StereoPannerNode(context, { pan })).connect(context.destination);
    source.start(Math.max(at, context.currentTime));
    if (until !== null) level.gain.setTargetAtTime(0, until, 0.012);
    live.add(source);
    source.addEventListener("ended", () => live.delete(source));
    root.dataset.sounded = Number(root.dataset.sounded ?? 0) + 1;
  }

  const audible = (voice) => (solo.size ? solo.has(voice) : !muted.has(voice));

  function schedule() {
    const until = seconds() + ahead * rate;
    for (;;) {
      if (next === music.notes.length) {
        if (!loop.checked || music.length === 0) break;
        next = 0;
        lap++;
        continue;
      }
      const note = music.notes[next];
      const at = lap * music.length + note.at;
      if (at > until) break;
      if (audible(note.voice)) sound(note.sound, atClock(at), note.gain, note.pan, note.until === null ? null : atClock(lap * music.length + note.until));
      next++;
    }
    for (;;) {
      if (nextBeat === music.beats.length) {
        if (!loop.checked || music.length === 0) break;
        nextBeat = 0;
        beatLap++;
        continue;
      }
      const [beat, first] = music.beats[nextBeat];
      const at = beatLap * music.length + beat;
      if (at > until) break;
      if (beatLap < 0 ? countIn.checked && beat < music.firstBar : click.checked) sound(music.click[first ? 1 : 0], atClock(beatLap < 0 ? beat - music.firstBar : at), 0.5, 0, null);
      nextBeat++;
      if (beatLap < 0 && (nextBeat === music.beats.length || music.beats[nextBeat][0] >= music.firstBar)) [nextBeat, beatLap] = [0, 0];
    }
    if (!loop.checked && seconds() > music.length + 0.3) stop();
  }

  function move() {
    frame = requestAnimationFrame(move);
    const svg = picture();
    if (!svg) return;
    let line = svg.querySelector(".now");
    if (!line) {
      line = document.createElementNS("http://www.w3.org/2000/svg", "line");
      line.setAttribute("class", "now");
      svg.append(line);
    }
    const second = seconds() < 0 || music.length === 0 ? 0 : loop.checked ? seconds() % music.length : Math.min(seconds(), music.length);
    const i = Math.max(1, music.line.findIndex(([at]) => at > second));
    const [[a, from], [b, to]] = [music.line[i - 1], music.line[i] ?? music.line[i - 1]];
    const tick = b > a ? from + (to - from) * (second - a) / (b - a) : from;
    turn(tick);
    const row = JSON.parse(svg.dataset.rows).find(([, end]) => tick < end) ?? JSON.parse(svg.dataset.rows).at(-1);
    if (!row) return;
    const [start, end, x0, x1, y0, y1] = row;
    const x = x0 + (x1 - x0) * (tick - start) / (end - start);
    for (const [name, value] of [["x1", x], ["x2", x], ["y1", y0], ["y2", y1]]) line.setAttribute(name, value);
  }

  // The hand of a ring that stands beside the strands.
  function turn(tick) {
    const ring = picture().closest("section")?.querySelector("svg.ring");
    if (!ring || !Number(ring.dataset.length)) return;
    let hand = ring.querySelector(".now");
    if (!hand) {
      hand = document.createElementNS("http://www.w3.org/2000/svg", "line");
      hand.setAttribute("class", "now");
      ring.append(hand);
    }
    const angle = 2 * Math.PI * tick / ring.dataset.length;
    const [middle, outer] = [Number(ring.dataset.middle), Number(ring.dataset.outer)];
    for (const [name, value] of [["x1", middle], ["y1", middle], ["x2", middle + outer * Math.sin(angle)], ["y2", middle - outer * Math.cos(angle)]]) hand.setAttribute(name, value);
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
    origin = context.currentTime + 0.1 + (countIn.checked ? music.firstBar / rate : 0);
    [next, lap, nextBeat, beatLap] = [0, 0, 0, countIn.checked ? -1 : 0];
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
    for (const line of picture()?.closest("section")?.querySelectorAll("svg .now") ?? []) line.remove();
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
  showSpeed();
}

for (const root of document.querySelectorAll("[data-player]")) {
  const source = root.dataset.source ? document.getElementById(root.dataset.source) : null;
  player(root, () => source?.value ?? root.dataset.text, () => document.querySelector(`${root.dataset.picture} svg.strands`));
}

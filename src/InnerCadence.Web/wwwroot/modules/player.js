// The transport: plays what the server says a text sounds like, and the record beside it, on one audio clock. It knows seconds and sounds,
// no music.
import { atTempo } from "./attempo.js";
import { clock } from "./clock.js";
import { film } from "./film.js";
import { fit } from "./fit.js";
import { lineOf } from "./lines.js";
import { remember, remembered } from "./memory.js";
import { mixer } from "./mixer.js";
import { away, post } from "./page.js";
import { longest, stretch } from "./record.js";
import { ridges } from "./ridges.js";
import { clockwork, rounds } from "./rounds.js";
import { follow } from "./now.js";
import { strikes } from "./strikes.js";
import { alone, transport } from "./transport.js";

/** One player: `root` holds the controls, `text()` gives what to play, `picture()` the svg along which the line moves. */
export function player(root, text, picture) {
  const find = (name) => root.querySelector(`[data-part="${name}"]`);
  const [speed, loop, click, countIn, pulse, against, climbBy, climbEvery, climbTo, span, told, played] = [
    "speed",
    "loop",
    "click",
    "count-in",
    "pulse",
    "against",
    "climb-by",
    "climb-every",
    "climb-to",
    "span",
    "told",
    "as-played",
  ].map(find);
  const section = () => picture()?.closest("section");
  const mix = mixer(root, section);
  /** @type {{address: string, lines: number[], bar: number | null, fitted: boolean} | null} */
  const record = root.dataset.record
    ? { address: root.dataset.record, lines: JSON.parse(root.dataset.lines), bar: Number(root.dataset.bar) || null, fitted: false }
    : null;
  /** @typedef {{music: any, out: GainNode}} Track What sounds of what is written: A, and B where two are compared. */
  /** @type {Track[]} */
  let tracks = [];
  let which = 0;
  const paced = Boolean(root.dataset.pace); // at the kit what is asked for counts, not how something was heard before
  let heard = record && !paced ? (remembered().heard ?? "record") : "written";
  let moved = 0; // bars by which a loop of some bars lies after the passage's first
  const sounds = strikes(() => {
    root.dataset.sounded = Number(root.dataset.sounded ?? 0) + 1;
  });
  let frame = 0;
  let asked = 0;
  /** @type {{record: GainNode, written: GainNode} | null} */
  let outs = null;
  /** @type {ReturnType<typeof rounds> | null} */
  let turns = null;
  root.hidden = false;

  const placed = () => record !== null && record.lines.length > 1;
  const hand = transport(
    root,
    {
      toggle: () => (root.dataset.state === "playing" ? stop() : play()),
      stop,
      changed,
      shift,
      choose,
      loop: cycle,
      click: () => click.click(),
    },
    { keeps: record !== null && !paced },
  );
  const { percent, part } = hand;
  // At the kit a tempo is asked for: the record goes at it too, in whole percent.
  const pace = () => (Number(root.dataset.pace) && placed() ? Number(root.dataset.tempo) / Number(root.dataset.pace) : 1);

  const known = remembered();
  // The address says how it is heard here; what it leaves open is as it was heard last.
  const address = new URLSearchParams(root.dataset.foot ? location.search : "");
  if (record && !paced && address.get("speed")) speed.value = address.get("speed");
  const looped = root.dataset.foot ? (address.get("loop")?.split(/[ +]/) ?? known.loops?.[location.pathname]) : null;
  if (span && looped && [...span.options].some((one) => one.value === looped[0])) [span.value, moved] = [looped[0], Number(looped[1]) || 0];
  if (known.click && click) click.checked = known.click;

  /** @type {Map<string, any>} What was played before, whatever its tempo. */
  const performed = new Map();
  async function perform(what, tempo) {
    const asked = {
      text: what,
      click: pulse?.value || null,
      looped: loop.checked,
      lines: placed() ? record?.lines : null,
      offsets: played?.checked ? JSON.parse(root.dataset.offsets ?? "[]") : null,
    };
    const answer = await post("/api/sound/performance", { ...asked, tempo });
    const key = JSON.stringify(asked);
    const before = performed.get(key);
    // While the server is away what is known goes on, at the tempo that is asked for.
    if (!answer && before) return tempo ? atTempo(before, tempo) : before;
    if (!answer?.ok) throw new Error(String(answer?.status));
    const music = await answer.json();
    performed.set(key, music);
    if (performed.size > 40) performed.delete(String(performed.keys().next().value));
    return music;
  }

  // The other one: text of the page, or a passage that the server gives.
  async function other() {
    const chosen = against?.selectedOptions[0];
    if (!chosen?.value) return null;
    return chosen.dataset.text ?? fetch(chosen.value).then((answer) => answer.text());
  }

  /** Bar lines that were laid by hand are heard at once, and kept when somebody says so. */
  function offer(done) {
    if (!record) return;
    const fit = document.getElementById("fit");
    fit.hidden = false;
    document.getElementById("fit-said").textContent =
      `The bar lines lie at ${clock(record.lines[0])} to ${clock(record.lines[record.lines.length - 1])}.`;
    [document.getElementById("fit-keep").hidden, document.getElementById("fit-clock").hidden] = [!record.bar, false];
    if (done) renew(true);
  }

  function loosen() {
    if (record) record.fitted = false;
    typed();
  }

  // Where what is typed lies on the record: its bars, its clock time and its bar may have changed.
  async function locate(typed) {
    if (!record || !root.dataset.open || record.fitted) return;
    const field = (id) => /** @type {HTMLInputElement | null} */ (document.getElementById(id))?.value.trim() ?? "";
    const answer = await post(`${record.address}/lines`, {
      text: typed,
      bar: field("Input_Bar") || null,
      at: field("Input_StartsAt") || null,
    });
    if (!answer?.ok) return;
    const { lines, bar, off, by } = await answer.json();
    [record.lines, record.bar] = [lines, bar];
    tell(
      lines.length < 2
        ? "Say at which clock time it starts, and the tempo: then the record plays here too."
        : off
          ? `The clock time is ${Math.abs(Math.round(off))} ms ${off > 0 ? "after" : "before"} the marked bar line; ` +
            "the record starts at the clock time."
          : "",
    );
    if (by === "beats" && !off) tell("From the clock time on bars go as the ear hears the beats.", true);
    root.dispatchEvent(new CustomEvent("placed", { detail: record }));
    // The mark can be moved to where it was heard; the clock time stands there already.
    const fit = document.getElementById("fit");
    fit.hidden = !off || !bar;
    if (!off || !bar) return;
    document.getElementById("fit-said").textContent = `Bar ${bar} is marked elsewhere.`;
    [document.getElementById("fit-keep").hidden, document.getElementById("fit-clock").hidden] = [false, true];
  }

  /** Speed and loop stand in the address, and are there again when the page is. */
  function keep() {
    if (!root.dataset.foot || paced) return;
    const chosen = span?.value ? [span.value, String(moved)] : null;
    remember({ loops: { ...remembered().loops, [location.pathname]: chosen } });
    const address = new URLSearchParams(location.search);
    const put = (name, value) => (value ? address.set(name, value) : address.delete(name));
    put("speed", percent() === 100 ? "" : String(percent()));
    put("loop", chosen?.join("+") ?? "");
    const query = address.toString().replaceAll("%2B", "+");
    history.replaceState(history.state, "", location.pathname + (query ? `?${query}` : ""));
  }

  const tell = (words, calmly = false) => {
    if (!told) return;
    told.textContent = words;
    told.className = calmly ? "quiet" : "near";
  };

  async function load() {
    const typed = text();
    await locate(typed);
    const first = await perform(typed, Number(root.dataset.tempo) || null);
    const b = await other();
    // What is compared is heard at one tempo: that of the first.
    const second = b === null ? null : await perform(b.replace(/^\s*tempo\b.*$/gim, ""), first.tempo);
    const made = [first, second].filter(Boolean).map((music) => ({ music, out: new GainNode(clockwork(), { gain: 0 }) }));
    const names = new Set(made.flatMap(({ music }) => [...music.notes.map((note) => note.sound), ...music.click]));
    await sounds.load(names);
    // The round that is under way sounds to its end on the tracks it began on.
    tracks = made;
    for (const track of tracks) if (outs) track.out.connect(outs.written);
    hear(which < tracks.length ? which : 0);
    mix.show(first.voices);
    showSpeed();
  }

  /** What a round is, in seconds from the first bar line; with no record it is the passage. */
  function bounds() {
    const music = tracks[0].music;
    const bars = Number(span?.value) || 0;
    if (span?.value === "picked") {
      const picked = ticks();
      if (picked) return { from: secondOf(picked[0]), to: secondOf(picked[1]) };
    }
    if (!bars) return { from: 0, to: placed() ? (lines().at(-1) ?? music.length) : music.length };
    return { from: line(moved), to: line(moved + bars) };
  }

  const lines = () => (placed() ? (record?.lines ?? []).map((line) => line - (record?.lines[0] ?? 0)) : [...tracks[0].music.bars]);

  /** Seconds from the first bar line. */
  function line(bar) {
    const known = lines();
    return known.length < 2 ? tracks[0].music.length : lineOf(known, bar);
  }

  /** The span that is picked on the strands. */
  function ticks() {
    const cells = [...(picture()?.querySelectorAll(".cell") ?? [])];
    const picked = cells.filter((cell) => cell.classList.contains("picked"));
    if (!picked.length) return null;
    const after = cells[cells.indexOf(picked[picked.length - 1]) + 1];
    return [Number(picked[0].dataset.tick), after ? Number(after.dataset.tick) : tracks[0].music.line.at(-1)[1]];
  }

  const between = (line, at, key, value) => {
    const i = Math.max(
      1,
      line.findIndex((pair) => pair[key] > at),
    );
    const [a, b] = [line[i - 1], line[i] ?? line[i - 1]];
    return b[key] > a[key] ? a[value] + ((b[value] - a[value]) * (at - a[key])) / (b[key] - a[key]) : a[value];
  };
  const secondOf = (tick) => between(tracks[0].music.line, tick, 1, 0);
  const tickOf = (second) => between(tracks[0].music.line, second, 0, 1);

  /** @returns {Promise<import("./rounds.js").Plan>} */
  async function plan(rate = Math.round(percent() * pace()) / 100) {
    const { from, to } = bounds();
    /** @type {AudioBuffer | null} */ let sound = null;
    if (placed() && record) {
      const start = record.lines[0];
      if (to - from > longest(rate * 100))
        tell(`At this speed a loop of the record lasts up to ${Math.floor(longest(rate * 100))} s: choose some of the bars.`);
      else if (rate < 0.25) tell("The record is not slowed below 25 %.");
      else {
        try {
          sound = await stretch(record.address, start + from, start + to, Math.round(rate * 100), part());
        } catch {
          tell(away("the record is not heard."));
        }
      }
    }
    const events = tracks.flatMap((track) =>
      track.music.notes
        .filter((note) => note.at >= from - 0.06 && note.at < to - 0.001)
        .map((note) => ({ at: note.at, play: (when) => sounds.strike(note, mix.level(note), when, rate, track.out) })),
    );
    const music = tracks[0].music;
    events.push(
      ...music.beats
        .filter(([at]) => at >= from - 0.001 && at < to - 0.001)
        .map(([at, first]) => ({
          at,
          play: (when) => {
            if (click.checked) sounds.tone(music.click[first ? 1 : 0], when);
          },
        })),
    );
    return { from, to, rate, events: events.sort((a, b) => a.at - b.at), record: sound };
  }

  function hear(i) {
    which = i;
    tracks.forEach((track, j) => track.out.gain.setTargetAtTime(i === j ? 1 : 0, clockwork().currentTime, 0.004));
    for (const one of root.querySelectorAll("[data-hear]")) one.setAttribute("aria-pressed", Number(one.dataset.hear) === i);
  }

  /** Which of record and written is heard from a time on, in a round. */
  function level(lap, when) {
    if (!outs) return;
    const alone = !placed();
    const both = heard === "both";
    const written = alone || heard === "written" || both || (heard === "turn" && lap % 2 === 1);
    outs.written.gain.setTargetAtTime(written ? 1 : 0, when, 0.003);
    outs.record.gain.setTargetAtTime(!alone && (heard === "record" || both || (heard === "turn" && lap % 2 === 0)) ? 1 : 0, when, 0.003);
    root.dataset.heard = alone ? "written" : heard;
  }

  function choose(source) {
    heard = source;
    if (!paced) remember({ heard });
    hand.hears(heard);
    if (turns?.plays()) level(turns.lap(), clockwork().currentTime);
  }

  function showSpeed() {
    const tempo = root.dataset.pace ? Number(root.dataset.tempo) : (tracks[0]?.music.tempo ?? Number(root.dataset.tempo));
    hand.said(
      record && !root.dataset.pace
        ? `${percent()} %`
        : tempo
          ? `${Math.round((tempo * percent()) / 100)} of ${Math.round(tempo)} BPM`
          : `${percent()} %`,
    );
  }

  // The climb: after so many rounds a little faster, from where the last round ends.
  function climb(lap) {
    const [by, every, to] = [climbBy, climbEvery, climbTo].map((field) => Number(field?.value));
    // Worked out while the last of its rounds sounds.
    if (!by || !every || (lap + 1) % every || percent() >= to) return;
    speed.value = Math.min(to, percent() + by);
    showSpeed();
    renew();
  }

  /** What changed is heard from the next round on, or at once. */
  async function renew(now = false) {
    if (!turns?.plays()) return;
    const turn = ++asked;
    const made = await plan();
    if (turn !== asked || !turns.plays()) return;
    if (now) {
      sounds.hush();
      turns.change(made);
    } else turns.follow(made);
  }

  function move() {
    frame = requestAnimationFrame(move);
    if (!turns?.plays() || !tracks.length) return;
    const second = turns.place();
    const { music } = tracks[0];
    if (record && placed() && !root.dataset.hidden) hand.place(where(second));
    const svg = picture();
    if (!svg) return;
    const outside = music.length === 0 || second < 0 || second > music.length;
    const tick = outside ? 0 : tickOf(second);
    for (const one of [svg, ...(section()?.querySelectorAll("svg.staff, svg.ring") ?? [])]) follow(one, tick, outside);
    root.dispatchEvent(
      new CustomEvent("moves", {
        detail: { second, outside, at: placed() ? (record?.lines[0] ?? 0) + second : null, rate: turns.plan()?.rate ?? 1 },
      }),
    );
  }

  function where(second) {
    const lines = record?.lines ?? [];
    const at = lines[0] + second;
    let bar = lines.findIndex((line, i) => at >= line && (i + 1 === lines.length || at < lines[i + 1] - 0.0005));
    if (bar < 0) bar = -1;
    return `${clock(at, 2)}${record?.bar ? ` bar ${record.bar + bar}` : ""}`;
  }

  async function play() {
    const context = clockwork();
    await context.resume();
    hand.shows(false, "Loading");
    outs ??= { record: new GainNode(context, { gain: 0 }), written: new GainNode(context, { gain: 0 }) };
    for (const out of [outs.record, outs.written]) out.connect(context.destination);
    turns ??= rounds({
      looped: () => loop.checked,
      out: () => /** @type {GainNode} */ (outs?.record),
      round: (lap, when) => {
        level(lap, when);
        climb(lap);
      },
      ended: still,
    });
    const turn = ++asked;
    try {
      await load();
      const made = await plan();
      if (turn !== asked) return;
      alone(root);
      const music = tracks[0].music;
      if (made.to - made.from < 0.02) {
        tell("Nothing is written yet.");
        still();
        return;
      }
      const when = turns.begin(
        made,
        countIn.checked
          ? music.beats
              .filter(([at]) => at < music.firstBar - 0.001)
              .map(([at, first]) => ({ before: music.firstBar - at, play: (when) => sounds.tone(music.click[first ? 1 : 0], when) }))
          : [],
      );
      // For who records along: when the first round begins, and where its bar lines lie.
      const span = lines().filter((line) => line >= made.from - 0.001 && line <= made.to + 0.001);
      [root.dataset.round, root.dataset.bpm] = [JSON.stringify(span), music.tempo];
      root.dispatchEvent(new CustomEvent("begins", { detail: { when, rate: made.rate } }));
    } catch {
      hand.shows(false);
      hand.said("The sounds cannot be loaded; is the server there?");
      return;
    }
    hand.shows(true);
    cancelAnimationFrame(frame);
    move();
  }

  function stop() {
    if (!turns?.plays()) return;
    turns.stop();
    sounds.silence();
    still();
  }

  function still() {
    cancelAnimationFrame(frame);
    for (const line of section()?.querySelectorAll("svg .now") ?? []) line.remove();
    picture()?.querySelector(".now")?.remove();
    hand.shows(false);
    root.dispatchEvent(new CustomEvent("moves", { detail: null }));
  }

  /** What is typed sounds in the next round. */
  let typing = 0;
  function typed() {
    clearTimeout(typing);
    typing = setTimeout(async () => {
      if (root.dataset.state !== "playing") return locate(text());
      await load()
        .then(() => renew())
        .catch(() => tell(away("what sounds is what was typed before.")));
    }, 300);
  }

  // Some bars at a time: a bar is far enough to go on, the other way it comes back.
  function shift(by) {
    if (!span) return;
    if (!Number(span.value)) span.value = "1";
    moved += by;
    loop.checked = true;
    keep();
    renew(true);
    if (root.dataset.state !== "playing") play();
  }

  function changed(what) {
    if (what === "span") moved = 0;
    if (what === "speed") showSpeed();
    if (what === "speed" || what === "span") keep();
    if (what !== "loop") renew(true);
  }

  click.addEventListener("change", () => remember({ click: click.checked }));
  against?.addEventListener("change", () => {
    for (const one of root.querySelectorAll("[data-hear]")) one.hidden = !against.value;
    if (root.dataset.state === "playing") {
      stop();
      play();
    }
  });
  pulse?.addEventListener("change", () => {
    if (root.dataset.state === "playing") {
      stop();
      play();
    }
  });
  for (const one of root.querySelectorAll("[data-hear]"))
    one.addEventListener("click", () =>
      tracks.length > 1 ? hear(Number(one.dataset.hear)) : ((which = Number(one.dataset.hear)), play()),
    );
  if (record) choose(heard);
  if (record && root.dataset.open) {
    const behind = ridges(root, document.querySelector(root.dataset.picture), (lines, done) => {
      [record.fitted, record.lines] = [true, lines];
      offer(done);
    });
    fit(() => record, loosen);
    film(root);
    if (placed()) behind.hear(record);
    if (!placed() || told?.textContent) locate(text());
  }
  showSpeed();
  return { typed, loosen };

  function cycle() {
    if (!span) return loop.click();
    span.selectedIndex = (span.selectedIndex + 1) % span.options.length;
    span.dispatchEvent(new Event("change"));
  }
}

for (const root of document.querySelectorAll("[data-player]")) {
  const source = root.dataset.source ? document.getElementById(root.dataset.source) : null;
  const one = player(
    root,
    () => source?.value ?? root.dataset.text,
    () => document.querySelector(`${root.dataset.picture} svg.strands`),
  );
  if (source) source.addEventListener("input", one.typed);
  if (root.dataset.open)
    for (const id of ["Input_StartsAt", "Input_Bar"]) document.getElementById(id)?.addEventListener("change", one.loosen);
}

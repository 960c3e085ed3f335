// Sets what the server decided on five lines, with the engraving library that ships with the application.
const {
  Renderer,
  Stave,
  StaveNote,
  GraceNote,
  GraceNoteGroup,
  Voice,
  Formatter,
  Beam,
  Tuplet,
  Articulation,
  Annotation,
  Tremolo,
  Parenthesis,
  Dot,
  Stem,
  RepeatNote,
  BarlineType,
  GhostNote,
} = globalThis.VexFlow ?? {};
const heads = { "": "", x: "/x2", diamond: "/d2", triangle: "/t2", circled: "/x3", slash: "/s1", square: "/s2" };
const types = { 1: "w", 2: "h", 4: "q", 8: "8", 16: "16", 32: "32", 64: "64" };
const svgName = "http://www.w3.org/2000/svg";
let fonts;

/** Loads the music fonts once; false where they or the library cannot be had. */
export function ready() {
  if (!Renderer) return Promise.resolve(false);
  fonts ??= Promise.all(["Bravura", "Academico"].map((name) => document.fonts.load(`30px ${name}`))).then(
    () => {
      globalThis.VexFlow.setFonts("Bravura", "Academico");
      return true;
    },
    () => false,
  );
  return fonts;
}

/**
 * Draws a staff into an element and tells where each moment stands, so that a line can follow what is played.
 * @param {HTMLElement} element @param {any} staff @param {number} [width] @param {string} [as] "sheet": with its tempo above and a final
 * bar line; "key": the drums alone, without meter and rests.
 */
export function drawStaff(element, staff, width = 856, as = "") {
  const ends = as === "sheet";
  element.replaceChildren();
  const renderer = new Renderer(element, Renderer.Backends.SVG);
  const context = renderer.getContext();
  const rows = [];
  let [x, y] = [8, 0];
  const height = 150;
  // Bars go into lines by how much stands in them.
  const measures = staff.bars.map((bar, i) => ({
    bar,
    i,
    wide: (bar.asBefore ? 60 : 60 + 23 * Math.max(bar.hands.length, bar.feet.length)) + (bar.meter ? 36 : 0),
  }));
  const lines = [];
  for (const measure of measures) {
    const last = lines.at(-1);
    if (last && last.wide + measure.wide <= width - 56) {
      last.bars.push(measure);
      last.wide += measure.wide;
    } else lines.push({ bars: [measure], wide: measure.wide });
  }
  for (const { bars, wide } of lines) {
    const room = width - 60;
    const stretch = bars.length && wide > room * 0.6 ? room / wide : Math.min(1.4, room / wide);
    x = 8;
    bars.forEach((measure, k) => {
      const stave = new Stave(x, y + 16, measure.wide * stretch + (k === 0 ? 44 : 0));
      if (k === 0) stave.addClef("percussion");
      if (measure.bar.meter && as !== "key") stave.addTimeSignature(measure.bar.meter);
      stave.setMeasure(0);
      if (ends && measure.i === staff.bars.length - 1) stave.setEndBarType(BarlineType.END);
      if (ends && measure.i === 0 && staff.tempo) stave.setTempo({ duration: "q", bpm: staff.tempo }, -14);
      stave.setContext(context).draw();
      label(context, `${staff.firstBar + measure.i}`, stave.getX() + 2, y + 26);
      if (measure.bar.unheard) label(context, `? ${measure.bar.unheard}`, stave.getX() + 20, y + 26);
      drawBar(context, stave, measure.bar, staff.feet, as === "key");
      const [from, to] = [stave.getNoteStartX(), stave.getX() + stave.getWidth()];
      rows.push([measure.bar.at, measure.bar.at + measure.bar.length, from, to, y + 40, y + 118, measure.bar.places]);
      x += stave.getWidth();
    });
    y += height;
  }
  renderer.resize(width, Math.max(y, 40));
  const svg = element.querySelector("svg");
  svg.classList.add("staff");
  svg.setAttribute("viewBox", `0 0 ${width} ${Math.max(y, 40)}`);
  svg.setAttribute("role", "img");
  svg.setAttribute("aria-label", staff.label);
  // Between two signs the line runs evenly: a row for each gap.
  svg.dataset.rows = JSON.stringify(
    rows.flatMap(([start, end, from, to, top, bottom, places]) => {
      const stops = places.length && places[0][0] === start ? places : [[start, from], ...places];
      return stops.map(([tick, at], i) => [tick, stops[i + 1]?.[0] ?? end, at, stops[i + 1]?.[1] ?? to, top, bottom]);
    }),
  );
  return svg;
}

function label(context, words, x, y) {
  context.save();
  context.setFont("Hyperlegible, sans-serif", 10);
  context.fillText(words, x, y);
  context.restore();
}

function drawBar(context, stave, bar, withFeet, bare) {
  bar.places = [];
  if (bar.asBefore && RepeatNote) {
    const sign = new RepeatNote("1");
    const voice = new Voice({ numBeats: 4, beatValue: 4 }).setMode(Voice.Mode.SOFT).addTickables([sign]);
    new Formatter().joinVoices([voice]).format([voice], 10);
    voice.setStave(stave).draw(context, stave);
    return;
  }
  const parts = [[bar.hands, Stem.UP]];
  if (withFeet) parts.push([bar.feet, Stem.DOWN]);
  const made = parts.map(([signs, stem]) =>
    signs.map((sign) => note(sign, stem, signs.length === 1 && sign.heads.length === 0, parts.length > 1, bare)),
  );
  const voices = made.map((notes) => new Voice({ numBeats: 4, beatValue: 4 }).setMode(Voice.Mode.SOFT).addTickables(notes));
  const tuplets = made.flatMap((notes, part) =>
    grouped(notes, parts[part][0], (sign) => sign.tuplet?.[0]).map(
      ({ notes, sign }) =>
        new Tuplet(notes, {
          numNotes: sign.tuplet[1],
          notesOccupied: sign.tuplet[2],
          location: parts[part][1] === Stem.UP ? 1 : -1,
          ratioed: false,
          bracketed: notes.some((n) => n.isRest()) || sign.type < 8,
        }),
    ),
  );
  const beams = made.flatMap((notes, part) =>
    grouped(notes, parts[part][0], (sign) => (sign.type >= 8 ? sign.beam : undefined))
      .map(({ notes }) => trimmed(notes))
      .filter((notes) => notes.length > 1)
      .map((notes) => new Beam(notes)),
  );
  const formatter = new Formatter();
  for (const voice of voices) formatter.joinVoices([voice]);
  formatter.format(voices, Math.max(20, stave.getX() + stave.getWidth() - stave.getNoteStartX() - 22));
  for (const voice of voices) voice.draw(context, stave);
  for (const beam of beams) beam.setContext(context).draw();
  for (const tuplet of tuplets) tuplet.setContext(context).draw();
  const at = new Map();
  made.forEach((notes, part) =>
    notes.forEach((one, i) => {
      const sign = parts[part][0][i];
      if (!at.has(sign.at)) at.set(sign.at, one.getAbsoluteX() + 6);
      decorate(one, sign);
    }),
  );
  bar.places = [...at].sort((a, b) => a[0] - b[0]);
}

// Neighbours of one voice that share a key.
function grouped(notes, signs, keyOf) {
  const groups = [];
  signs.forEach((sign, i) => {
    const key = keyOf(sign);
    const last = groups.at(-1);
    if (key === undefined || key === null) groups.push(null);
    else if (last && last.key === key) last.notes.push(notes[i]);
    else groups.push({ key, sign, notes: [notes[i]] });
  });
  return groups.filter(Boolean);
}

// A beam neither begins nor ends on a rest.
function trimmed(notes) {
  const sounding = notes.map((n) => !n.isRest());
  return notes.slice(sounding.indexOf(true) < 0 ? notes.length : sounding.indexOf(true), sounding.lastIndexOf(true) + 1);
}

function note(sign, stem, wholeBar, shared, bare) {
  const type = types[sign.type];
  if (bare && sign.heads.length === 0) return new GhostNote({ duration: type });
  if (sign.heads.length === 0) {
    const rest = new StaveNote({
      // Where feet have their own rests, those of the hands stand a line higher, so that neither reaches into the other.
      keys: [stem === Stem.UP ? (wholeBar || shared ? "d/5" : "b/4") : "c/4"],
      duration: `${type}r`,
      dots: sign.dots,
      alignCenter: wholeBar,
    });
    if (sign.dots) Dot.buildAndAttach([rest], { all: true });
    return rest;
  }
  const one = new StaveNote({
    keys: sign.heads.map(({ key, head }) => key + heads[head]),
    duration: type,
    dots: sign.dots,
    stemDirection: stem,
  });
  if (sign.dots) Dot.buildAndAttach([one], { all: true });
  sign.heads.forEach((head, i) => {
    if (!head.ghost) return;
    one.addModifier(new Parenthesis(1), i).addModifier(new Parenthesis(2), i);
  });
  const above = stem === Stem.UP ? 3 : 4;
  if (sign.accent) one.addModifier(new Articulation("a>").setPosition(above), 0);
  if (sign.open === "open") one.addModifier(new Articulation("ah").setPosition(3), 0);
  if (sign.open === "closed") one.addModifier(new Articulation("a+").setPosition(3), 0);
  if (sign.open === "loose") one.addModifier(words("half", 1), 0);
  if (sign.graces) {
    const graces = Array.from(
      { length: sign.graces },
      () =>
        new GraceNote({
          keys: [sign.graceKey],
          duration: sign.graces === 1 ? "8" : "16",
          slash: sign.graces === 1,
          stemDirection: Stem.UP,
        }),
    );
    const group = new GraceNoteGroup(graces, true);
    if (graces.length > 1) group.beamNotes();
    one.addModifier(group, 0);
  }
  if (sign.buzz) one.addModifier(new Tremolo(3), 0);
  if (sign.words) one.addModifier(words(sign.words, stem === Stem.UP ? 1 : 3), 0);
  if (sign.hand) one.addModifier(words(sign.hand, 3), 0);
  return one;
}

function words(said, where) {
  return new Annotation(said).setFont("Hyperlegible Mono, monospace", 11).setVerticalJustification(where);
}

// Titles for the pointer, looks for what is unsure or optional; colours come from the style sheet.
function decorate(one, sign) {
  const element = one.getSVGElement?.();
  if (!element || !sign.heads.length) return;
  const title = document.createElementNS(svgName, "title");
  title.textContent = sign.heads.map((head) => head.title).join("; ");
  element.prepend(title);
  element.dataset.tick = sign.at;
  element.dataset.voices = sign.heads.map((head) => head.voice).join(" ");
  if (sign.heads.every((head) => head.optional)) element.classList.add("optional");
  if (sign.heads.some((head) => head.unsure)) element.classList.add("unsure-sign");
}

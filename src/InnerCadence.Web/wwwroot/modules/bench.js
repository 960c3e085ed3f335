// Makes the page on which a passage is written down live: the server reads the text, this shows what it understood.
import { beside } from "./beside.js";
import { draw, redraw } from "./draw.js";
import { ask, edit } from "./reading.js";
import { inPlace } from "./inplace.js";
import { paper } from "./paper.js";
import { strokes } from "./strokes.js";
import { ready, drawStaff } from "./staff.js";
import { away, get } from "./page.js";

const by = (id) => document.getElementById(id);
const bench = by("bench");
const text = by("Input_Text");
const [strands, words, problems, size, firstWords, said] = ["strands", "words", "problems", "size", "first-words", "said"].map(by);
const pictures = strands.closest("section");
let saved = text.value;
let last = { places: [], picture: null };
let [asking, waiting] = [false, false];

/** The text changed by a script as if it was typed: one step to undo, the focus stays where it is. */
function write(now, caret = null) {
  const old = text.value;
  if (now === old) return;
  let start = 0;
  while (start < old.length && start < now.length && old[start] === now[start]) start++;
  let end = 0;
  while (end < old.length - start && end < now.length - start && old[old.length - 1 - end] === now[now.length - 1 - end]) end++;
  const before = /** @type {HTMLElement | null} */ (document.activeElement);
  text.focus({ preventScroll: true });
  text.setSelectionRange(start, old.length - end);
  const put = now.slice(start, now.length - end);
  if (!document.execCommand(put ? "insertText" : "delete", false, put)) {
    text.value = now;
    text.dispatchEvent(new Event("input", { bubbles: true }));
  }
  const at = caret ?? start + put.length;
  text.setSelectionRange(at, at);
  if (before !== text) before?.focus?.({ preventScroll: true });
}

/** The last move that was begun. @type {Promise<any>} */
let turn = Promise.resolve();

/** A move on strokes, once those before it are done; what stands in its way is said. Given as a function it is asked what it is once they
 * are drawn. */
function move(what) {
  const mine = turn.then(() => moveNow(what));
  turn = mine.catch(() => {});
  return mine;
}

async function moveNow(what) {
  if (typeof what === "function") {
    await settled();
    what = what();
  }
  let typed, answer;
  do {
    typed = text.value;
    answer = await edit(typed, what);
  } while (text.value !== typed);
  said.textContent = answer.why ?? "";
  if (answer.text === undefined) return false;
  write(answer.text);
  return true;
}

/** @type {Promise<any> | null} */
let pressed = null;

/** Each key means what is seen once those before it are done and drawn. @param {() => Promise<any> | void} act */
function press(act) {
  const doing = pressed ? pressed.then(act) : act();
  if (!doing) return;
  const mine = doing
    .catch(() => {})
    .then(settled)
    .then(() => {
      if (pressed === mine) pressed = null;
    });
  pressed = mine;
}

/** Undoes once what was begun is done. */
async function undo(again) {
  await turn;
  const before = /** @type {HTMLElement | null} */ (document.activeElement);
  text.focus({ preventScroll: true });
  document.execCommand(again ? "redo" : "undo");
  before?.focus?.({ preventScroll: true });
  await settled();
}

const canCut = () => by("cut") !== null && text.value === saved;
/** Once what was written is drawn, or could not be. */
const settled = () =>
  new Promise((done) => {
    if (!asking && !waiting) done(undefined);
    else pictures.addEventListener("answered", () => done(settled()), { once: true });
  });
const voices = () => JSON.parse(strands.querySelector("svg.strands")?.dataset.voices ?? "[]").map(([code]) => code);
const page = { text, strands, said, write, move, press, undo, canCut, read, settled, voices, last: () => last };
if (by("after"))
  inPlace(by("passage"), () => {
    saved = text.value;
    read();
  });
const sheet = paper(page);
const touch = strokes(page);
page.choose = touch.choose;
beside(page);

// One question at a time: what is typed meanwhile is asked next, so that the picture keeps up with the fingers.
async function read() {
  if (asking) {
    waiting = true;
    return;
  }
  asking = true;
  const typed = text.value;
  const began = performance.now();
  const answer = await ask(typed, { picture: "strands", bar: bench.dataset.bar, edit: true, sound: Boolean(bench.dataset.sound),
      ...touch.view() });
  asking = false;
  if (!answer) showProblems([{ severity: "warning", message: away("what you type stays here. Save again when it does.") }]);
  else {
    show(answer, typed);
    bench.dataset.redrawn = (performance.now() - began).toFixed(1);
  }
  if (waiting) {
    waiting = false;
    read();
  }
  pictures.dispatchEvent(new Event("answered"));
}

function show(answer, typed) {
  last = answer;
  redraw(strands, answer.picture);
  words.replaceChildren(...answer.readBack.map((sentence) => element("p", "", sentence)));
  size.textContent = `${answer.bars} ${answer.bars === 1 ? "bar" : "bars"}, ${answer.places.length} strokes`;
  firstWords.hidden = answer.bars > 0;
  showProblems(answer.problems);
  sheet.paint(answer, typed);
  touch.redrawn();
  pictures.dispatchEvent(new Event("redrawn"));
  for (const part of [ring, staff]) if (part.open) drawMore(part);
}

// Ring and staff are drawn when they are looked at.
const [ring, staff] = [by("ring-part"), by("staff-part")];
async function drawMore(part) {
  const typed = text.value;
  if (part === ring) {
    const answer = await ask(typed, { picture: "ring" });
    if (answer && typed === text.value) by("ring").replaceChildren(draw(answer.picture));
  } else if (await ready()) {
    const answer = await ask(typed, { picture: "staff", bar: bench.dataset.bar, hide: pictures.dataset.hidden ?? "" });
    if (answer && typed === text.value) drawStaff(by("staff"), answer.picture);
  } else by("staff").textContent = "The staff needs its music font, which did not load. Reload the page.";
  pictures.dispatchEvent(new Event("redrawn"));
}
for (const part of [ring, staff])
  part.addEventListener("toggle", () => {
    if (part.open) drawMore(part);
  });
pictures.addEventListener("hidden-changed", () => {
  if (staff.open) drawMore(staff);
});

// A picture as a file of its own: its look and its music font go with it.
by("staff-file").addEventListener("click", async () => {
  const svg = by("staff").querySelector("svg");
  if (!svg) return;
  const copy = svg.cloneNode(true);
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  const font = await fetch(by("staff-part").dataset.font).then((answer) => answer.blob());
  const data = await new Promise((done) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result);
    reader.readAsDataURL(font);
  });
  const look = document.createElementNS("http://www.w3.org/2000/svg", "style");
  look.textContent = `@font-face { font-family: Bravura; src: url("${data}") format("woff2"); }`;
  copy.querySelectorAll(".now").forEach((line) => line.remove());
  copy.prepend(look);
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([new XMLSerializer().serializeToString(copy)], { type: "image/svg+xml" }));
  link.download = "staff.svg";
  link.click();
  URL.revokeObjectURL(link.href);
});

function showProblems(found) {
  const certain = found.find(({ fixes }) => fixes?.length === 1)?.fixes[0];
  problems.replaceChildren(
    ...found.map(({ severity, line, column, length, message, fixes = [] }) => {
      const item = element("li", severity);
      if (line) {
        const where = element("button", "plain where", `line ${line}, column ${column}`);
        where.type = "button";
        where.addEventListener("click", () => sheet.select(line, column, length));
        item.append(where, " ");
      }
      item.append(message);
      for (const fix of fixes) {
        const button = element("button", "plain fix", fix.says);
        button.type = "button";
        button.addEventListener("click", () => putRight(fix));
        if (fix === certain) button.append(" ", element("kbd", "", "Alt Enter"));
        item.append(" ", button);
      }
      return item;
    }),
  );
}

/** Edits from the last to the first, so that each finds its place. */
function putRight({ edits }) {
  const lines = text.value.split("\n");
  for (const { line, column, length, text: instead } of edits.toSorted((a, b) => b.line - a.line || b.column - a.column)) {
    const row = lines[line - 1];
    lines[line - 1] = row.slice(0, column - 1) + instead + row.slice(column - 1 + length);
  }
  write(lines.join("\n"));
  text.focus();
}

/** The first problem that knows its one remedy is put right; where only several are offered, the first of them has the focus. */
page.fixFirst = () => {
  const first = last.problems?.find((problem) => problem.fixes?.length === 1);
  const offer = /** @type {HTMLElement | null} */ (problems.querySelector(".fix"));
  if (first) {
    putRight(first.fixes[0]);
    return settled();
  }
  if (offer) offer.focus();
  else said.textContent = "No problem has a remedy that is certain.";
};

function element(name, look, content = "") {
  const made = document.createElement(name);
  if (look) made.className = look;
  made.textContent = content;
  return made;
}

text.addEventListener("input", read);
read();

for (const button of document.querySelectorAll("[data-toms]"))
  button.addEventListener("click", (event) => {
    event.preventDefault();
    move({ do: "toms", toms: button.dataset.toms });
  });
by("tidy").addEventListener("click", () => move({ do: "canonical" }));
for (const hidden of document.querySelectorAll("[data-live]")) hidden.hidden = false;

// Where it stands takes one line where there is little room.
const where = by("where");
if (matchMedia("(max-width: 1000px)").matches && !where.querySelector(".field-error:not(:empty)")) where.open = false;
where.addEventListener("toggle", () => {
  const [clock, bar, section, kind] = ["Input_StartsAt", "Input_Bar", "Input_Section", "Input_Kind"].map((id) => by(id).value.trim());
  by("where-said").textContent = [clock, bar && `bar ${bar}`, section, kind].filter(Boolean).join(" · ");
});

// Of clock time and bar one is enough: where bars of the recording are marked, the server says the other.
const [clock, bar, section, place] = ["Input_StartsAt", "Input_Bar", "Input_Section", "place"].map(by);

async function locate(typed) {
  const asked = typed === clock ? `clock=${encodeURIComponent(clock.value)}` : `bar=${encodeURIComponent(bar.value)}`;
  if (!typed.value.trim()) return;
  const answer = await get(`${bench.dataset.recording}?handler=Place&${asked}`);
  if (!answer?.ok) return;
  const found = await answer.json();
  if (typed === bar && !clock.value && found.clock) clock.value = found.clock;
  if (typed === clock && !bar.value && found.bar) bar.value = found.bar;
  if (!section.value && found.section) section.value = found.section;
  place.textContent = [found.clock, found.bar && `bar ${found.bar}`, found.section, found.chart].filter(Boolean).join(" · ");
}

for (const field of [clock, bar]) field.addEventListener("change", () => locate(field));

export { page };

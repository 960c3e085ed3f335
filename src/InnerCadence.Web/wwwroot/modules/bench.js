// Makes the page on which a passage is written down live: the server reads the text, this shows what it understood.
import { draw } from "./draw.js";

const bench = document.getElementById("bench");
const text = document.getElementById("Input_Text");
const [strands, words, problems, size, firstWords] = ["strands", "words", "problems", "size", "first-words"].map((id) => document.getElementById(id));
const saved = text.value;
let asked = 0;
let timer;

async function read() {
  const turn = ++asked;
  const canCut = document.getElementById("cut") !== null && text.value === saved;
  const answer = await fetch(`/api/count-lines/parse?picture=strands&bar=${bench.dataset.bar}&pick=${canCut}`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ text: text.value }),
  }).catch(() => null);
  if (turn !== asked) return;
  if (!answer?.ok) {
    showProblems([{ severity: "warning", message: "The server does not answer; what you type stays here. Save again when it does." }]);
    return;
  }
  show(await answer.json());
  if (ringPart.open) drawRing();
}

// The ring is drawn when it is looked at.
const ringPart = document.getElementById("ring-part");
async function drawRing() {
  const typed = text.value;
  const answer = await fetch("/api/count-lines/parse?picture=ring", { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ text: typed }) }).catch(() => null);
  if (answer?.ok && typed === text.value) document.getElementById("ring").replaceChildren(draw((await answer.json()).picture));
}
ringPart.addEventListener("toggle", () => { if (ringPart.open) drawRing(); });

function show({ picture, readBack, problems: found, bars, strokes }) {
  strands.replaceChildren(draw(picture));
  words.replaceChildren(...readBack.map((sentence) => element("p", "", sentence)));
  size.textContent = `${bars} ${bars === 1 ? "bar" : "bars"}, ${strokes.length} strokes`;
  firstWords.hidden = bars > 0;
  showProblems(found);
}

function showProblems(found) {
  problems.replaceChildren(...found.map(({ severity, line, column, length, message, fix }) => {
    const item = element("li", severity);
    if (line) item.append(element("span", "where", `line ${line}, column ${column}`), " ");
    item.append(message);
    if (fix) {
      const button = element("button", "plain", ` Write ${fix}`);
      button.type = "button";
      button.addEventListener("click", () => write(line, column, length, fix));
      item.append(button);
    }
    return item;
  }));
}

function write(line, column, length, fix) {
  const lines = text.value.split("\n");
  const row = lines[line - 1];
  lines[line - 1] = fix === "%*" ? `${row.trimEnd()} | %*` : row.slice(0, column - 1) + fix + row.slice(column - 1 + length);
  text.value = lines.join("\n");
  text.focus();
  read();
}

function element(name, look, content = "") {
  const made = document.createElement(name);
  if (look) made.className = look;
  made.textContent = content;
  return made;
}

text.addEventListener("input", () => {
  clearTimeout(timer);
  timer = setTimeout(read, 40);
});

// Picking a span of the strands: the places come from the server, each cell names its own.
const [from, to] = ["from", "to"].map((id) => document.getElementById(id));
let anchor = null;
let caret = null;
const cells = () => [...strands.querySelectorAll(".cell")];

function pick(a, b) {
  const all = cells();
  const [first, last] = [Math.min(a, b), Math.max(a, b)];
  all.forEach((cell, i) => cell.classList.toggle("picked", i >= first && i <= last));
  if (all.length) [from.value, to.value] = [all[first].dataset.from, all[last].dataset.to];
}

if (from) {
  strands.tabIndex = 0;
  strands.setAttribute("aria-label", "Strands. Arrows move over the counts, Shift with arrows picks a span.");
  strands.setAttribute("role", "group");
  strands.addEventListener("pointerdown", (event) => {
    const at = cells().indexOf(event.target);
    if (at < 0) return;
    event.preventDefault();
    strands.focus({ preventScroll: true });
    [anchor, caret] = [at, at];
    pick(anchor, caret);
  });
  strands.addEventListener("pointermove", (event) => {
    if (event.buttons !== 1 || anchor === null) return;
    const at = cells().indexOf(document.elementFromPoint(event.clientX, event.clientY));
    if (at >= 0) pick(anchor, caret = at);
  });
  strands.addEventListener("keydown", (event) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, Home: -Infinity, End: Infinity }[event.key];
    if (!step) return;
    event.preventDefault();
    const last = cells().length - 1;
    caret = caret === null ? 0 : Math.min(last, Math.max(0, caret + step));
    if (!event.shiftKey || anchor === null) anchor = caret;
    pick(anchor, caret);
  });
}

// Of clock time and bar one is enough: where bars of the recording are marked, the server says the other.
const [clock, bar, section, place] = ["Input_StartsAt", "Input_Bar", "Input_Section", "place"].map((id) => document.getElementById(id));

async function locate(typed) {
  const asked = typed === clock ? `clock=${encodeURIComponent(clock.value)}` : `bar=${encodeURIComponent(bar.value)}`;
  if (!typed.value.trim()) return;
  const answer = await fetch(`${bench.dataset.recording}?handler=Place&${asked}`).catch(() => null);
  if (!answer?.ok) return;
  const found = await answer.json();
  if (typed === bar && !clock.value && found.clock) clock.value = found.clock;
  if (typed === clock && !bar.value && found.bar) bar.value = found.bar;
  if (!section.value && found.section) section.value = found.section;
  place.textContent = [found.clock, found.bar && `bar ${found.bar}`, found.section, found.chart].filter(Boolean).join(" · ");
}

for (const field of [clock, bar]) field.addEventListener("change", () => locate(field));

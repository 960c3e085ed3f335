// Places of an idea as they are on their records, or as they are written where no record is at hand: one by its button, or all that are
// confirmed one after another.
import { away } from "./page.js";
import { stretch } from "./record.js";
import { clockwork } from "./rounds.js";
import { alone, transport } from "./transport.js";

const by = (id) => document.getElementById(id);
const margin = 0.15; // seconds before and after, so that the first stroke is heard as it comes
const places = () => [...document.querySelectorAll(".hear")];
/** @type {AudioBufferSourceNode | null} */
let sounding = null;
let turn = 0;
const root = by("in-turn");
const hand = root && transport(root, { toggle, stop: hush, changed: () => {} });

function hush() {
  turn++;
  sounding?.stop();
  sounding = null;
  hand?.shows(false);
  by("hear-said").textContent = "";
  for (const row of document.querySelectorAll("tr.sounding")) row.classList.remove("sounding");
}

/** What is written of a place, by the synth. @param {string} address @param {number} percent */
async function written(address, percent) {
  const answer = await fetch(`${address}?percent=${percent}`);
  if (!answer.ok) throw new Error(String(answer.status));
  return clockwork().decodeAudioData(await answer.arrayBuffer());
}

/** True when it was heard to its end; over and over where the loop is on. */
async function hear(place) {
  do if (!(await once(place))) return false;
  while (hand?.looped());
  return true;
}

async function once(place) {
  const mine = turn;
  const row = place.closest("tr");
  const { address, from, to, written: byHand } = place.dataset;
  const context = clockwork();
  await context.resume();
  const speed = hand?.percent() ?? 100;
  const sound = await (
    byHand ? written(byHand, speed) : stretch(address, Number(from) - margin, Number(to) + margin, speed, hand?.part() ?? "whole")
  ).catch(() => null);
  if (mine !== turn) return false;
  if (!sound) {
    by("hear-said").textContent = away("nothing is heard.");
    return false;
  }
  row?.classList.add("sounding");
  hand?.shows(true);
  by("hear-said").textContent = place.dataset.says;
  const source = new AudioBufferSourceNode(context, { buffer: sound });
  source.connect(context.destination);
  sounding = source;
  document.body.dataset.heard = String(Number(document.body.dataset.heard ?? 0) + 1);
  await new Promise((go) => {
    source.addEventListener("ended", go);
    source.start();
  });
  row?.classList.remove("sounding");
  return mine === turn;
}

/** Places come and go where a page shows what is being written. */
function reveal() {
  const there = places();
  if (root) root.hidden = !there.length;
  for (const place of there) place.hidden = false;
}

if (root) {
  reveal();
  document.addEventListener("seen", reveal);
  document.addEventListener("click", (event) => {
    const place = /** @type {HTMLElement} */ (event.target).closest(".hear");
    if (!place) return;
    alone(root);
    hush();
    hear(place).then((whole) => whole && hush());
  });
}

/** All that are confirmed one after another, or nothing any more. */
async function toggle() {
  const stops = sounding !== null;
  hush();
  if (stops || !root) return;
  alone(root);
  const confirmed = places().filter((place) => place.dataset.judged === "Confirmed");
  if (!confirmed.length) by("hear-said").textContent = "None of them is confirmed yet.";
  for (const place of confirmed) if (!(await hear(place))) return;
  if (confirmed.length) hush();
}

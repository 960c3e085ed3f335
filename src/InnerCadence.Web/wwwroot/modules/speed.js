// Types into passages of two sizes and times each key up to the frame that shows it.
import { redraw } from "./draw.js";
import { ask } from "./reading.js";

const rounds = 40;
const groove = (bars) => {
  const line = (voice, counts) => `${voice}: ${Array.from({ length: bars }, (_, i) => counts[i % counts.length]).join(" | ")}`;
  return ["tempo 96", line("HH", ["8ths 4&o", "16ths"]), line("SN", ["2 (2a) 4", "2 4 (a)"]), line("BD", ["1 3&", "1 & 3&"])].join("\n");
};

async function once(text) {
  const began = performance.now();
  const answer = await ask(text, { picture: "strands", bar: 1, edit: true });
  redraw(document.getElementById("strands"), answer.picture);
  document.getElementById("strands").getBoundingClientRect();
  return performance.now() - began;
}

document.getElementById("measure").addEventListener("click", async () => {
  const said = document.getElementById("measuring");
  const rows = [];
  for (const [bars, wanted] of [
    [4, 50],
    [64, 150],
  ]) {
    said.textContent = `${bars} bars`;
    const times = [];
    for (let i = 0; i < rounds; i++) times.push(await once(`${groove(bars)}\nCR: ${(i % 4) + 1}`));
    times.sort((a, b) => a - b);
    rows.push([`${bars} bars`, times[rounds / 2].toFixed(1), times[Math.floor(rounds * 0.95)].toFixed(1), wanted]);
  }
  said.textContent = "Done.";
  document.getElementById("measured").replaceChildren(
    ...rows.map((cells) => {
      const row = document.createElement("tr");
      row.append(...cells.map((cell, i) => Object.assign(document.createElement("td"), { textContent: cell, className: i ? "num" : "" })));
      return row;
    }),
  );
});

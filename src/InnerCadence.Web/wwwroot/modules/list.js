// A list of passages with one player: the row that is chosen is what it plays.
import "./player.js";

const root = /** @type {HTMLElement | null} */ (document.querySelector("[data-player]"));
const button = /** @type {HTMLButtonElement | null} */ (root?.querySelector('[data-part="play"]'));
const rows = /** @type {HTMLButtonElement[]} */ ([...document.querySelectorAll(".play-row")]);

/** @param {HTMLButtonElement} row */
function choose(row) {
  if (!root) return;
  for (const old of document.querySelectorAll("tr.sounding")) old.classList.remove("sounding");
  row.closest("tr")?.classList.add("sounding");
  const cell = /** @type {HTMLElement} */ (row.closest("tr")?.querySelector("td.picture"));
  cell.id ||= `row-${rows.indexOf(row)}`;
  root.dataset.text = row.dataset.text;
  root.dataset.tempo = row.dataset.tempo ?? "";
  root.dataset.picture = `#${cell.id}`;
  const said = document.getElementById("list-said");
  if (said) said.textContent = row.dataset.says ?? "";
}

for (const row of rows) {
  row.hidden = false;
  row.addEventListener("click", () => {
    const again = row.closest("tr")?.classList.contains("sounding") && root?.dataset.state === "playing";
    if (root?.dataset.state === "playing") button?.click();
    if (again) return;
    choose(row);
    button?.click();
  });
  // From row to row without the pointer.
  row.addEventListener("keydown", (event) => {
    const way = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const next = way && rows[rows.indexOf(row) + way];
    if (!next) return;
    event.preventDefault();
    next.focus();
  });
}
if (rows[0]) choose(rows[0]);
document.querySelector("tr.sounding")?.classList.remove("sounding");

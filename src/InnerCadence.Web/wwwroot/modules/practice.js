// A session at the kit: one key for a clean round, another for a failure. The server worked the ladder out in advance as a table, so the
// page climbs and falls by itself while nobody answers; what was played waits in a queue that outlives the tab.
const by = (id) => document.getElementById(id);
const root = by("session");
const store = `inner-cadence practice ${root.dataset.id}`;
const player = document.querySelector("[data-player]");
const rungs = [...by("ladder").children];
const mostBeads = 12;
let table = JSON.parse(root.dataset.ladder);
let queue = JSON.parse(localStorage.getItem(store) ?? "[]");
let at = 0;
let sending = false;
// What is still to be sent has moved the ladder already.
for (const { outcome } of queue) if (outcome) at = table[at][outcome === "clean" ? 3 : 4];

function show() {
  const [tempo, clean] = table[at];
  by("tempo").textContent = String(tempo);
  by("clean").textContent = String(clean);
  for (const one of rungs) {
    one.classList.toggle("now", one.dataset.tempo === String(tempo));
    if (one.dataset.tempo === String(tempo)) one.setAttribute("aria-current", "step");
    else one.removeAttribute("aria-current");
  }
  // The rungs stand from the highest down.
  const now = rungs.findIndex((one) => one.dataset.tempo === String(tempo));
  const [above, below] = [rungs[now - 1], rungs[now + 1]];
  by("rungs").textContent = [above && `then ${above.dataset.tempo}`, below && `two failures: ${below.dataset.tempo}`]
    .filter(Boolean)
    .join(", ");
  by("state").textContent = now === 0 ? "at the recorded tempo" : `of ${rungs[0].dataset.tempo}`;
  const changed = player.dataset.tempo !== String(tempo);
  player.dataset.tempo = String(tempo);
  // What sounds goes on at the new tempo.
  if (changed && player.dataset.state !== "still") again();
}

/** A round is a bead on its rung. @param {number} tempo @param {string} outcome */
function bead(tempo, outcome) {
  const beads = rungs.find((one) => one.dataset.tempo === String(tempo))?.querySelector(".beads");
  if (!beads) return;
  const one = document.createElement("i");
  one.className = outcome;
  beads.append(one);
  while (beads.children.length > mostBeads) beads.firstElementChild.remove();
}

function keep(entry) {
  queue.push({ key: crypto.randomUUID(), tempo: table[at][0], outcome: null, pain: null, note: "", ...entry });
  localStorage.setItem(store, JSON.stringify(queue));
  send();
}

async function send() {
  if (sending || !queue.length) return;
  sending = true;
  const sent = queue.slice(0, 500);
  const answer = await fetch("?handler=Keep", {
    method: "POST",
    headers: {
      "Content-Type": "application/json",
      RequestVerificationToken: document.querySelector("#round [name=__RequestVerificationToken]").value,
    },
    body: JSON.stringify({ entries: sent }),
  }).catch(() => null);
  sending = false;
  if (!answer?.ok) {
    by("kept").textContent = `${queue.length === 1 ? "1 round is" : `${queue.length} rounds are`} kept here; the server does not answer.`;
    return;
  }
  const { stopped, table: now } = await answer.json();
  queue = queue.filter((one) => !sent.includes(one));
  localStorage.setItem(store, JSON.stringify(queue));
  by("kept").textContent = "All kept.";
  if (stopped) {
    location.reload();
    return;
  }
  [table, at] = [now, 0];
  for (const { outcome } of queue) if (outcome) at = table[at][outcome === "clean" ? 3 : 4];
  show();
}

// One key for everything: while nothing sounds it begins, then each press is a clean round.
by("silently").hidden = false;
const begins = () => !by("silent").checked && player.dataset.state === "still";
const label = () => {
  by("one-says").textContent = begins() ? "Play" : "Clean";
};
new MutationObserver(label).observe(player, { attributes: true, attributeFilter: ["data-state"] });
by("silent").addEventListener("change", label);
label();

by("round").addEventListener("submit", (event) => {
  event.preventDefault();
  const outcome = event.submitter?.value ?? "clean";
  if (outcome === "clean" && begins()) {
    player.querySelector("[data-part=play]").click();
    return;
  }
  bead(table[at][0], outcome);
  keep({ outcome });
  at = table[at][outcome === "clean" ? 3 : 4];
  show();
});
by("pain").addEventListener("submit", (event) => {
  event.preventDefault();
  const pain = Number(event.submitter?.value ?? 0);
  keep({ pain, note: by("note").value });
  by("note").value = "";
  if (pain > 1) {
    for (const button of by("round").elements) button.disabled = true;
    by("state").textContent = "stopped: rest this one";
  }
});
setInterval(send, 3000);

// What sounds: the figure, a layer, a part, a drill, a variation.
const sounding = by("sounding");
by("what").addEventListener("change", (event) => sound(event.target.selectedOptions[0].dataset.text));
for (const button of document.querySelectorAll("[data-sound]")) {
  button.hidden = false;
  button.addEventListener("click", () => sound(button.dataset.sound));
}
function sound(text) {
  sounding.value = text;
  sounding.dispatchEvent(new Event("input", { bubbles: true }));
  again();
}
function again() {
  const play = player.querySelector("[data-part=play]");
  if (player.dataset.state !== "still") play.click();
  play.click();
}

show();
send();

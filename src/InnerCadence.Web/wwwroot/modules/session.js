// A running listening session. Everything noticed goes into a queue that outlives the tab, and from there to the server.
import { clock as secondsClock, seconds } from "./clock.js";
import { deck } from "./deck.js";
import { post } from "./page.js";
import { placeIn, rail } from "./rail.js";
import { transport } from "./transport.js";
const by = (id) => document.getElementById(id);
const root = by("session");
root.hidden = false;
const store = `inner-cadence session ${root.dataset.id}`;
const kept = JSON.parse(localStorage.getItem(store) ?? "null");
const audio = by("audio");
const state = {
  stamps: kept?.stamps ?? [],
  heard: kept?.heard ?? [],
  at: Math.max(kept?.at ?? 0, Number(root.dataset.at)),
  undo: kept?.undo ?? [],
};
/** @type {number | null} When the watch was started, in the browser's milliseconds. */
let started = null;
/** @type {{key: string, fromMs: number, toMs: number} | null} What is being heard. */
let span = null;
let asked = performance.now(); // when it was last asked what is heard
let nextBar = Number(root.dataset.nextBar);
/** @type {number[]} */
let taps = [];
for (const { kind, bar, undone } of state.stamps) if (kind === "bar" && !undone) nextBar = Math.max(nextBar, bar + 1);

const clock = (ms) => secondsClock(ms / 1000, 1);
/** @type {{from: number, to: number} | null} What is heard over again, in seconds. */
let over = null;
// A session begins at the record's own speed, however it was heard before.
const hand =
  audio &&
  transport(
    by("transport"),
    {
      toggle: run,
      stop: () => {
        if (running()) pause();
      },
      changed,
    },
    { keeps: false },
  );
const sound =
  audio &&
  hand &&
  deck(
    audio,
    by("transport"),
    {
      ...hand,
      switch: (on) => {
        over = null;
        hand.switch(on);
      },
      shows: () => {},
    },
    {
      record: root.dataset.record,
      span: () => over,
      tell: (words) => {
        by("sound-said").textContent = words;
      },
    },
  );
const running = () => (sound ? sound.plays() : started !== null);
const now = () => Math.round(sound ? sound.here() * 1000 : started === null ? state.at : state.at + performance.now() - started);
if (audio)
  audio.addEventListener(
    "loadedmetadata",
    () => {
      if (state.at / 1000 < audio.duration) audio.currentTime = state.at / 1000;
    },
    { once: true },
  );

function remember() {
  localStorage.setItem(store, JSON.stringify({ ...state, at: now(), wall: Date.now(), running: running() }));
}

// A turntable goes on while a tab is lost: the watch can take up where the record is by now.
if (!audio && kept?.running && kept.wall) {
  const lost = Date.now() - kept.wall;
  if (lost > 3000 && lost < 4 * 3600 * 1000) {
    const go = document.createElement("button");
    go.type = "button";
    go.className = "btn";
    go.id = "go-on";
    go.textContent = `${secondsClock(lost / 1000, 0)} have passed: go on from there`;
    go.addEventListener("click", () => {
      state.at = kept.at + (Date.now() - kept.wall);
      go.remove();
      if (!running()) run();
    });
    by("run").after(go);
    by("run").addEventListener("click", () => go.remove(), { once: true });
  }
}

let sending = false;
async function send() {
  if (sending) return false;
  if (!state.stamps.length && !state.heard.length) return true;
  sending = true;
  const [stamps, heard] = [[...state.stamps], [...state.heard]];
  // What changes while the answer is on its way, a note or a span that grew, has to be sent again.
  const sent = new Map([...stamps, ...heard].map((one) => [one, JSON.stringify(one)]));
  const unsent = (one) => sent.get(one) !== JSON.stringify(one);
  const answer = await fetch("?handler=Keep", {
    method: "POST",
    headers: { "Content-Type": "application/json", RequestVerificationToken: document.querySelector('meta[name="token"]').content },
    body: JSON.stringify({ stamps, heard, atMs: now() }),
  }).catch(() => null);
  sending = false;
  if (answer?.ok) {
    state.stamps = state.stamps.filter(unsent);
    state.heard = state.heard.filter((one) => one === span || unsent(one));
    by("kept").textContent = state.stamps.length ? "" : "All kept.";
    by("kept").className = "quiet";
    remember();
  } else {
    const waiting = state.stamps.length;
    by("kept").textContent =
      `${waiting === 0 ? "What passes is" : waiting === 1 ? "1 stamp is" : `${waiting} stamps are`} kept here and not yet by the server; it does not answer.`;
    by("kept").className = "near";
  }
  return answer?.ok ?? false;
}
setInterval(() => {
  if (running()) hear();
  remember();
  send();
}, 2000);
addEventListener("pagehide", () => {
  if (running()) hear();
  remember();
});

function hear() {
  const at = now();
  // Going back begins another span, and so does what comes sooner than it can have been heard: a loop drawn further on, a click on the
  // wave. A gap alone does not, since a hidden tab is seldom asked.
  const passed = performance.now() - asked;
  asked += passed;
  if (span && (at < span.toMs || at - span.toMs > passed * (sound?.rate() ?? 1) + 300)) span = null;
  if (!span) {
    span = { key: crypto.randomUUID(), fromMs: at, toMs: at };
    state.heard.push(span);
  }
  span.toMs = at;
  if (!state.heard.includes(span)) state.heard.push(span);
}

function pause() {
  hear();
  span = null;
  if (sound) sound.stop();
  else {
    state.at = now();
    started = null;
  }
  said("Go on");
  remember();
  send();
}

/** @param {string} words On the button that starts and pauses. */
function said(words) {
  if (hand) hand.shows(running(), words);
  else by("run-words").textContent = words;
}

function run() {
  if (running()) {
    pause();
    return;
  }
  if (sound) sound.start();
  else started = performance.now();
  span = null;
  setTimeout(hear);
  said("Pause");
}
by("run")?.addEventListener("click", run);
audio?.addEventListener("ended", pause);
audio?.addEventListener("timeupdate", () => {
  if (running() && !audio.seeking) hear();
});
// A jump on the clock: what lies between was not heard.
audio?.addEventListener("seeking", () => {
  span = null;
});
by("set-clock")?.addEventListener("change", (event) => {
  const typed = seconds(/** @type {HTMLInputElement} */ (event.target).value) * 1000;
  if (!Number.isFinite(typed) || typed < 0) return;
  if (running()) {
    hear();
    span = null;
    started = performance.now();
  }
  state.at = Math.round(typed);
  remember();
});

function stamp(button) {
  /**
   * @type {{key: string, kind: string, ideaId: {value: number} | null, atMs: number, bar: number | null, note: string,
   *   undone: boolean}}
   */
  const made = {
    key: crypto.randomUUID(),
    kind: button.dataset.kind,
    ideaId: button.dataset.idea ? { value: Number(button.dataset.idea) } : null,
    atMs: now(),
    bar: null,
    note: "",
    undone: false,
  };
  if (made.kind === "bar") {
    made.bar = nextBar++;
    by("next-bar").textContent = nextBar;
  }
  const line = document.createElement("li");
  line.dataset.key = made.key;
  line.textContent = `${clock(made.atMs)} ${made.kind === "bar" ? `bar ${made.bar}` : button.firstChild.textContent.trim()}`;
  by("made").prepend(line);
  state.stamps.push(made);
  state.undo.push(made);
  if (made.kind === "note") note(made, line);
  by("kept").textContent = "";
  remember();
  send();
}

function note(made, line) {
  const field = document.createElement("input");
  field.className = "form-control d-inline-block w-auto ms-2";
  field.setAttribute("aria-label", `Note at ${clock(made.atMs)}`);
  field.maxLength = 2000;
  line.append(field);
  field.focus();
  const done = () => {
    made.note = field.value.trim();
    line.textContent = `${clock(made.atMs)} ${made.note || "note"}`;
    if (!state.stamps.includes(made)) state.stamps.push(made);
    remember();
    send();
  };
  field.addEventListener("change", done);
  field.addEventListener("keydown", (event) => {
    if (event.key === "Enter") {
      event.preventDefault();
      field.blur();
    }
  });
}

for (const button of root.querySelectorAll("[data-kind]")) {
  button.addEventListener("pointerdown", (event) => {
    event.preventDefault();
    stamp(button);
  });
  button.addEventListener("click", (event) => {
    if (event.detail === 0) stamp(button);
  });
}
by("undo-stamp").addEventListener("click", () => {
  const last = state.undo.pop();
  if (!last) return;
  last.undone = true;
  if (last.kind === "bar") by("next-bar").textContent = --nextBar;
  if (!state.stamps.includes(last)) state.stamps.push(last);
  by("made").querySelector(`[data-key="${last.key}"]`)?.remove();
  remember();
  send();
});
by("tap").addEventListener("click", async () => {
  taps.push(performance.now() / 1000);
  if (taps.length > 2 && taps[taps.length - 1] - taps[taps.length - 2] > 3) taps = taps.slice(-1);
  if (taps.length < 4) {
    by("tempo").textContent = `${taps.length} taps`;
    return;
  }
  const answer = await post("/api/time/tempo", { taps });
  if (answer?.ok) {
    const { bpm, low, high } = await answer.json();
    by("tempo").textContent = `${bpm.toFixed(1)} BPM (${low.toFixed(1)} to ${high?.toFixed(1) ?? "?"})`;
  }
});
by("end").addEventListener("submit", async (event) => {
  if (!running() && !state.stamps.length && !state.heard.length) {
    localStorage.removeItem(store);
    return;
  }
  event.preventDefault();
  if (running()) pause();
  for (let i = 0; i < 50 && sending; i++) await new Promise((go) => setTimeout(go, 50));
  // A session that the server has not heard to its end goes on.
  if (!(await send()) || state.stamps.length) return;
  localStorage.removeItem(store);
  event.target.submit();
});

// The bar that is really sounding, by the marks; and how it is heard: slower, a little back, the last seconds over again.
const [bars, sections] = [by("at-bar").dataset.bars, by("at-bar").dataset.sections].map((told) => JSON.parse(told ?? "[]"));
if (sound) {
  by("back").addEventListener("click", () => {
    sound.go(sound.here() - 5);
  });
  document.addEventListener("keydown", (event) => {
    if (event.key !== "l" || event.ctrlKey || event.altKey || /** @type {HTMLElement} */ (event.target).matches("input, textarea, select"))
      return;
    by("transport").querySelector("[data-part=loop]").click();
  });
}

/** The last seconds over again, or another speed or part of the record. */
function changed(what) {
  if (!sound || !hand) return;
  if (what === "loop") {
    const [at, length] = [sound.here(), Number(by("again-seconds").value) || 4];
    over = hand.looped() ? { from: Math.max(0, at - length), to: at } : null;
    span = null;
    line?.draw();
  }
  sound.renew();
}

const line =
  sound &&
  by("strip") &&
  rail(by("strip"), {
    plays: running,
    here: sound.here,
    rate: sound.rate,
    span: () => over,
    go: (second) => {
      if (running()) hear();
      span = null;
      sound.go(second);
      line?.draw();
    },
    set: (drawn, done) => {
      over = drawn;
      hand?.switch(true);
      if (!done) return;
      if (running()) hear();
      span = null;
      sound.renew();
    },
  });
(function show() {
  by("clock").textContent = clock(now());
  by("at-bar").textContent = placeIn(bars, sections, now() / 1000);
  line?.show();
  requestAnimationFrame(show);
})();
if (state.stamps.length || state.heard.length) send();

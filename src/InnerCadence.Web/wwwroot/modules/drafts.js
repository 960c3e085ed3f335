// Keeps what is typed into a form until the server says that it is kept: over a closed tab, a lost connection, a stopped server.
// What is begun on a page that makes something new has a mark of its own (begun), so two beginnings never share a draft.
import { edit } from "./reading.js";

const prefix = "inner-cadence draft ";
// Drafts of before levels and echoes do not say which form of the count lines they are in.
const language = 2;
// How early and late taps were stands in no field that is seen, and was typed all the same.
const timing = "Input.Played";
const kept = document.querySelector('meta[name="kept"]')?.content;
if (kept) localStorage.removeItem(prefix + kept);

const form = document.querySelector("form[data-draft]");
if (form) watch(form);
list();

function watch(form) {
  const begun = form.elements.begun;
  let key = keyOf();
  const fields = () =>
    [...form.elements].filter(
      (field) =>
        field.name &&
        !field.name.startsWith("__") &&
        field.name !== "Input.Before" &&
        (field.type !== "hidden" || field.name === timing) &&
        field.type !== "submit" &&
        field.type !== "file" &&
        field.tagName !== "BUTTON",
    );
  const state = () => fields().map((field) => [field.name, field.value, field.type === "checkbox" ? field.checked : null]);
  const answered = document.querySelector("[aria-invalid], .field-error:not(:empty), .validation-summary-errors, #back") !== null;
  let fresh = JSON.stringify(state());
  let saved = answered ? null : fresh;

  const own = read(key);
  if (own && !answered && own.state !== fresh) {
    if (begun) {
      take(own);
      tell("This is what you typed on " + when(own) + "; it is not saved yet.", [
        [
          "Discard it",
          () => {
            localStorage.removeItem(key);
            location.reload();
          },
        ],
      ]);
    } else offer(key, own);
  }
  if (begun && !answered)
    for (const [other, draft] of drafts())
      if (other !== key && other.slice(prefix.length).split("?")[0] === location.pathname) offer(other, draft);

  const keep = () => {
    const now = JSON.stringify(state());
    if (now === saved) return;
    saved = now;
    if (now === fresh && !answered) {
      localStorage.removeItem(key);
      return;
    }
    // The mark stands in the address from the first word on, so that this page opened again is this beginning.
    if (begun && !new URLSearchParams(location.search).has("begun")) history.replaceState(history.state, "", addressOf(location.search));
    localStorage.setItem(
      key,
      JSON.stringify({ at: new Date().toISOString(), language, state: now, address: addressOf(location.search), about: about() }),
    );
  };
  // What an answer of the server put into a field is typed too.
  if (answered) keep();
  form.addEventListener("input", keep);
  // Saved where it stands: from now on this is what the server has.
  form.addEventListener("saved", () => {
    localStorage.removeItem(key);
    fresh = saved = JSON.stringify(state());
  });
  form.addEventListener("change", keep);

  function keyOf() {
    return prefix + location.pathname + (begun ? "?begun=" + begun.value : "");
  }

  function addressOf(search) {
    const asked = new URLSearchParams(search);
    for (const name of ["handler", "hear"]) asked.delete(name);
    if (begun) asked.set("begun", begun.value);
    return location.pathname + (asked.size > 0 ? "?" + asked : "");
  }

  // In words by which its owner knows it: whose it is, at what clock time, its first words.
  function about() {
    const said = (name) => form.elements[name]?.value?.trim() ?? "";
    const words = [
      said("Input.StartsAt") || said("Input.Title") || said("Input.Name") || said("Input.Nickname"),
      firstWords(said("Input.Text") || said("Text") || said("Input.Sentence") || said("Input.Note")),
    ];
    return {
      study: document.body.dataset.study ?? "",
      page: document.querySelector("h1")?.textContent.trim() ?? "",
      words: words.filter(Boolean).join(" · "),
    };
  }

  function offer(other, draft) {
    tell(`What you typed here on ${when(draft)} was not saved${draft.about?.words ? ": " + draft.about.words : ""}.`, [
      ["Take it up", () => takeUp(other, draft)],
      ["Discard it", () => localStorage.removeItem(other)],
    ]);
  }

  // A draft that began elsewhere, from another stamp or file, is taken up where it began.
  function takeUp(other, draft) {
    const there = draft.address ? new URL(draft.address, location.href) : null;
    if (begun && there && sortOf(there.search) !== sortOf(location.search)) {
      location.href = there.href;
      return;
    }
    if (begun) {
      begun.value = there?.searchParams.get("begun") ?? begun.value;
      if (!there) localStorage.removeItem(other);
      key = keyOf();
      history.replaceState(history.state, "", addressOf(location.search));
    }
    take(draft);
  }

  function sortOf(search) {
    const asked = new URLSearchParams(search);
    for (const name of ["begun", "handler", "hear"]) asked.delete(name);
    asked.sort();
    return asked.toString();
  }

  function take(draft) {
    const all = fields();
    JSON.parse(draft.state).forEach(([name, value, checked], i) => {
      const field = all[i]?.name === name ? all[i] : all.find((other) => other.name === name);
      if (!field) return;
      if (checked === null) field.value = value;
      else field.checked = checked;
      field.dispatchEvent(new Event("input", { bubbles: true }));
    });
    const lines = form.elements["Input.Text"];
    if (!draft.language && lines?.value) bringOver(lines);
  }

  // What would be read otherwise today says what it said then; as it was typed it can be had back.
  async function bringOver(lines) {
    const typed = lines.value;
    const { text: now } = await edit(typed, { do: "bring-over" });
    if (!now || now === typed || lines.value !== typed) return;
    const put = (text) => {
      lines.value = text;
      lines.dispatchEvent(new Event("input", { bubbles: true }));
    };
    put(now);
    tell("This was typed before count lines had levels and echoes: it is written so that its strokes stay.", [
      ["As it was typed", () => put(typed)],
    ]);
  }
}

function tell(text, actions) {
  const notice = document.createElement("div");
  notice.className = "notice warn";
  notice.setAttribute("role", "status");
  const words = document.createElement("p");
  words.textContent = text;
  notice.append(
    words,
    ...actions.map(([label, does]) => {
      const button = document.createElement("button");
      button.type = "button";
      button.className = "btn small";
      button.textContent = label;
      button.addEventListener("click", () => {
        does();
        notice.remove();
      });
      return button;
    }),
  );
  document.getElementById("main").prepend(notice);
}

// What waits: the drafts of this browser join what the server knows.
function list() {
  const study = document.body.dataset.study ?? "";
  const own = drafts().filter(([, draft]) => draft.about && draft.about.study === study);
  const strip = document.getElementById("waits");
  if (strip && own.length > 0) {
    const count = own.length + Number(strip.dataset.count);
    strip.dataset.count = String(count);
    strip.querySelector("b").textContent = String(count);
    strip.hidden = false;
  }
  const place = document.getElementById("drafts");
  if (!place || own.length === 0) return;
  document.getElementById("waiting")?.removeAttribute("hidden");
  for (const [key, draft] of own) {
    const item = document.createElement("li");
    const link = document.createElement("a");
    link.href = draft.address ?? key.slice(prefix.length);
    link.textContent = draft.about.page;
    const away = document.createElement("button");
    away.type = "button";
    away.className = "plain ms-2";
    away.textContent = "discard";
    away.addEventListener("click", () => {
      localStorage.removeItem(key);
      item.remove();
    });
    item.append(
      "Draft: ",
      link,
      ` ${draft.about.words} `,
      Object.assign(document.createElement("span"), { className: "quiet", textContent: when(draft) }),
      away,
    );
    place.append(item);
  }
}

function firstWords(text) {
  const line = text.split("\n").find((l) => l.trim() && !/^(meter|tempo|title|swing|bars)\b/.test(l.trim())) ?? "";
  return line.length > 40 ? line.slice(0, 40) + "…" : line;
}

function when(draft) {
  return new Date(draft.at).toLocaleString();
}

function read(key) {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "null");
  } catch {
    return null;
  }
}

function drafts() {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(prefix))
    .map((key) => [key, read(key)])
    .filter(([, draft]) => draft?.state)
    .sort((a, b) => (a[1].at < b[1].at ? 1 : -1));
}

// What is heard and seen of each voice: level, mute, solo; shown, pale or hidden; and the layers in which a groove is learned.
import { remember, remembered } from "./memory.js";

const layers = ["Everything", "Hat and cymbals", "and snare and toms", "and kick and feet"];

export function mixer(root, section) {
  const [table, layer] = ["voices", "layer"].map((name) => root.querySelector(`[data-part="${name}"]`));
  const [muted, solo, level, seen] = [new Set(), new Set(), new Map(Object.entries(remembered().levels ?? {})), new Map()];
  let known = new Map(); // code -> layer
  const reached = () => Number(layer?.value ?? 0);

  /** How loud a note is: 0 where it is not heard. */
  function gain(note) {
    const of = known.get(note.voice) ?? 1;
    if (solo.size ? !solo.has(note.voice) : muted.has(note.voice)) return 0;
    if (seen.get(note.voice) === "hidden") return 0;
    if (reached() && (of > reached() || note.ghost)) return 0;
    return level.get(note.voice) ?? 1;
  }

  function show(voices) {
    if (!voices.length || voices.map(({ code }) => code).join() === [...known.keys()].join()) return;
    known = new Map(voices.map(({ code, layer: of }) => [code, of]));
    table.replaceChildren(...voices.map(({ code, name }) => row(code, name)));
    look();
  }

  // The voices of the picture are known before anything has sounded.
  function drawn() {
    show(
      JSON.parse(section()?.querySelector("svg.strands")?.dataset.voices ?? "[]").map(([code, name, , of]) => ({ code, name, layer: of })),
    );
    look();
  }

  function row(code, name) {
    const made = document.createElement("span");
    made.className = "voice-row";
    made.append(toggle(name, "Mute " + name, muted, code), toggle("solo", "Solo " + name, solo, code));
    if (layer) {
      const volume = document.createElement("input");
      Object.assign(volume, { type: "range", min: 0, max: 150, value: (level.get(code) ?? 1) * 100 });
      volume.setAttribute("aria-label", `Level of ${name} in percent`);
      volume.addEventListener("input", () => {
        level.set(code, Number(volume.value) / 100);
        remember({ levels: Object.fromEntries(level) });
      });
      const sight = document.createElement("select");
      sight.className = "form-select";
      sight.setAttribute("aria-label", `How ${name} is shown`);
      sight.append(new Option("shown", ""), new Option("pale", "pale"), new Option("hidden", "hidden"));
      sight.value = seen.get(code) ?? "";
      sight.addEventListener("change", () => {
        seen.set(code, sight.value);
        look();
        section()?.dispatchEvent(new Event("hidden-changed"));
      });
      made.append(volume, sight);
    }
    return made;
  }

  function toggle(label, title, set, code) {
    const made = document.createElement("button");
    made.type = "button";
    made.className = set === solo ? "plain solo" : "btn small";
    made.textContent = label;
    made.title = title;
    made.setAttribute("aria-label", title);
    made.setAttribute("aria-pressed", set.has(code));
    made.addEventListener("click", () => {
      if (!set.delete(code)) set.add(code);
      made.setAttribute("aria-pressed", set.has(code));
    });
    return made;
  }

  // The pictures follow: what is hidden goes, what is pale or of a later layer steps back.
  function look() {
    const place = section();
    if (!place || !layer) return;
    place.dataset.hidden = [...seen]
      .filter(([, how]) => how === "hidden")
      .map(([code]) => code)
      .join();
    for (const bead of place.querySelectorAll("svg [data-voice]")) {
      const voice = bead.dataset.voice;
      const ghost = bead.classList.contains("ghost") || bead.querySelector(".ghost") !== null;
      bead.classList.toggle("gone", seen.get(voice) === "hidden");
      bead.classList.toggle("pale", seen.get(voice) === "pale" || (reached() > 0 && ((known.get(voice) ?? 1) > reached() || ghost)));
    }
    for (const sign of place.querySelectorAll("svg [data-voices]"))
      sign.classList.toggle(
        "pale",
        sign.dataset.voices
          .split(" ")
          .every((voice) => seen.get(voice) === "pale" || (reached() > 0 && (known.get(voice) ?? 1) > reached())),
      );
  }

  if (layer) {
    layer.append(...layers.map((name, i) => new Option(name, String(i))));
    layer.addEventListener("change", look);
    section()?.addEventListener("redrawn", drawn);
    drawn();
  }
  return { level: gain, show };
}

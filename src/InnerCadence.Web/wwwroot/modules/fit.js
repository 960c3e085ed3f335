// What becomes of bar lines that were laid on the wave by hand: marks of the recording, the passage's clock time, or nothing.
import { clock } from "./clock.js";
import { away } from "./page.js";

const by = (id) => document.getElementById(id);

/**
 * @param {() => {address: string, lines: number[], bar: number | null} | null} record
 * @param {() => void} loosen Back to what is typed and marked.
 */
export function fit(record, loosen) {
  const [said, keep, took, back] = ["fit-said", "fit-keep", "fit-clock", "fit-back"].map(by);
  /** @type {{before: string, version: number} | null} The marks as they were. */
  let undo = null;
  const form = () => new FormData(/** @type {HTMLFormElement} */ (by("passage")));
  const token = "__RequestVerificationToken";

  async function send(handler, fields) {
    const body = new FormData();
    body.set(token, String(form().get(token)));
    for (const [name, value] of Object.entries(fields)) body.set(name, String(value));
    return fetch(`${record()?.address}/tempo?handler=${handler}`, { method: "POST", body, redirect: "manual" }).catch(() => null);
  }

  keep.addEventListener("click", async () => {
    const now = record();
    if (!now?.bar) return;
    const answer = await send("Fit", { bar: now.bar, lines: now.lines.map((line) => line.toFixed(4)).join(" ") });
    const told = answer?.ok ? await answer.json() : { said: away("the marks are as they were."), kept: false };
    said.textContent = told.said;
    if (!told.kept) return;
    undo = told;
    const doubt = document.querySelector("[data-player] [data-part=told]");
    if (doubt) doubt.textContent = "";
    [keep.hidden, took.hidden] = [true, true];
    back.textContent = "Undo the marks";
    const typed = by("Input_StartsAt");
    if (typed.value.trim()) {
      typed.value = clock(now.lines[0]);
      typed.dispatchEvent(new Event("input", { bubbles: true }));
    }
  });
  took.addEventListener("click", () => {
    const now = record();
    if (!now) return;
    by("Input_StartsAt").value = clock(now.lines[0]);
    by("Input_StartsAt").dispatchEvent(new Event("input", { bubbles: true }));
    said.textContent = `The clock time is ${clock(now.lines[0])}; it is kept when you save.`;
  });
  back.addEventListener("click", async () => {
    if (undo) await send("Marks", { Marks: undo.before, version: undo.version, Meant: "true" });
    undo = null;
    by("fit").hidden = true;
    [keep.hidden, took.hidden, back.textContent] = [false, false, "Back to where they were"];
    loosen();
  });
}

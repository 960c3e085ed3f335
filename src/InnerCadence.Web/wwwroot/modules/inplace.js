// While something plays, saving leaves the page where it is: sound, loop and speed go on, what is said of the passage comes from the
// answer.
import { away } from "./page.js";

/** @param {HTMLFormElement} form @param {() => void} kept What is done once it is saved. */
export function inPlace(form, kept) {
  form.addEventListener("submit", async (event) => {
    const pressed = /** @type {HTMLButtonElement | null} */ (event.submitter);
    if (pressed?.hasAttribute("formaction") || !document.querySelector("[data-player][data-state=playing]")) return;
    event.preventDefault();
    const said = document.getElementById("said");
    const answer = await fetch(form.action, { method: "POST", body: new FormData(form) }).catch(() => null);
    if (!answer) {
      said.textContent = away("what you type stays here. Save again when it does.");
      return;
    }
    const page = new DOMParser().parseFromString(await answer.text(), "text/html");
    // What was not kept is shown by the page itself, with everything that was typed.
    if (!answer.ok || !answer.redirected) {
      form.submit();
      return;
    }
    for (const name of ["Input.Version", "Input.Began"]) {
      const field = /** @type {HTMLInputElement | null} */ (form.elements.namedItem(name));
      const now = /** @type {HTMLFormElement | null} */ (page.getElementById("passage"))?.elements.namedItem(name);
      if (field && now) field.value = /** @type {HTMLInputElement} */ (now).value;
    }
    for (const id of ["after", "facts"]) {
      const [old, made] = [document.getElementById(id), page.getElementById(id)];
      if (old && made) old.replaceWith(document.importNode(made, true));
    }
    said.textContent = "Saved.";
    form.dispatchEvent(new Event("saved"));
    kept();
  });
}

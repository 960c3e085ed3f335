// Says at every change of a rule what it would find in the study, before anything is saved.
import { sendForm } from "./page.js";
const part = document.getElementById("tuned");
const form = part.closest("form");
const button = document.getElementById("tune");
let timer;
let asked = 0;

async function tune() {
  const turn = ++asked;
  const answer = await sendForm(button.formAction, form, "tuned");
  if (turn !== asked) return;
  const words = await answer?.text();
  if (answer?.ok) part.innerHTML = words;
  else
    part.textContent =
      answer?.status === 422 ? "Something in the form cannot be read yet; See what they find says what." : "The server does not answer.";
}

form.addEventListener("input", (event) => {
  if (event.target.name === "Input.Nickname" || event.target.name === "Input.Note") return;
  clearTimeout(timer);
  timer = setTimeout(tune, 250);
});
tune();

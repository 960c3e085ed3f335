// Shows at every change what the article reads like, and puts codes where the caret is.
import { away, sendForm } from "./page.js";
const form = document.getElementById("article");
const text = form.elements.Text;
const read = document.getElementById("read");
const see = document.getElementById("see");
see.hidden = true;
let timer;
let asked = 0;

async function show() {
  const turn = ++asked;
  const answer = await sendForm(see.formAction, form, "read");
  if (turn !== asked) return;
  const words = await answer?.text();
  if (answer?.ok) {
    read.innerHTML = words;
    document.dispatchEvent(new Event("seen"));
  }
  document.getElementById("said").textContent = answer?.ok ? "" : away("what you type stays here.");
}

text.addEventListener("input", () => {
  clearTimeout(timer);
  timer = setTimeout(show, 350);
});

for (const button of document.querySelectorAll("[data-code]")) {
  button.addEventListener("click", () => {
    text.setRangeText(button.dataset.code, text.selectionStart, text.selectionEnd, "end");
    text.focus();
    text.dispatchEvent(new Event("input", { bubbles: true }));
  });
}

// The transport at the foot is the one of the page: the model goes at its speed and with its click, and has no more than a key.
import "./player.js";

const [model, foot] = ["[data-player].only-play", ".judging [data-player]"].map((one) => document.querySelector(one));
for (const part of ["speed", "click", "count-in"]) {
  const [own, chief] = /** @type {(HTMLInputElement | undefined)[]} */ ([model, foot]
      .map((one) => one?.querySelector(`[data-part=${part}]`)));
  if (!own || !chief) continue;
  const follow = () => {
    if (chief.type === "checkbox") own.checked = chief.checked;
    else own.value = chief.value;
    for (const event of ["input", "change"]) own.dispatchEvent(new Event(event, { bubbles: true }));
  };
  chief.addEventListener("input", follow);
  chief.addEventListener("change", follow);
}

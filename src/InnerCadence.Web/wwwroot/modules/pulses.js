// Plays two pulses against each other: the old one low and left, the new one high and right.
let context;
let sounding = [];

for (const button of document.querySelectorAll("button[data-old]")) {
  button.hidden = false;
  button.addEventListener("click", () => {
    const stop = button.getAttribute("aria-pressed") === "true";
    for (const one of sounding) one.stop();
    sounding = [];
    for (const other of document.querySelectorAll("button[data-old]")) {
      other.setAttribute("aria-pressed", "false");
      other.textContent = "Hear both";
    }
    if (stop) return;
    context ??= new AudioContext();
    context.resume();
    const begin = context.currentTime + 0.1;
    const times = (text) => text.split(" ").map(Number);
    for (const at of times(button.dataset.old)) click(begin + at, 660, -0.6);
    for (const at of times(button.dataset.new)) click(begin + at, 1320, 0.6);
    button.setAttribute("aria-pressed", "true");
    button.textContent = "Stop";
    sounding.at(-1)?.addEventListener("ended", () => {
      button.setAttribute("aria-pressed", "false");
      button.textContent = "Hear both";
    });
  });
}

function click(at, pitch, side) {
  const [tone, gain, pan] = [
    new OscillatorNode(context, { frequency: pitch }),
    new GainNode(context, { gain: 0 }),
    new StereoPannerNode(context, { pan: side }),
  ];
  gain.gain.setValueAtTime(0.4, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + 0.06);
  tone.connect(gain).connect(pan).connect(context.destination);
  tone.start(at);
  tone.stop(at + 0.08);
  sounding.push(tone);
}

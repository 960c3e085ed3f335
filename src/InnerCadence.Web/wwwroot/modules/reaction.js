// How late a hand is: it is taken off what is stamped.
const by = (id) => document.getElementById(id);

// Reaction: a click at uneven times; the median lateness of eight answers is kept for the next sessions.
const kept = "inner-cadence reaction";
if (by("reaction").value === "0") by("reaction").value = localStorage.getItem(kept) ?? "0";
by("measure").hidden = false;
by("measure").addEventListener("click", async () => {
  const context = new AudioContext();
  await context.resume();
  const late = [];
  /** @type {number | null} */
  let sounded = null;
  const answer = (event) => {
    if (event.type === "keydown" && event.key !== " ") return;
    event.preventDefault();
    if (sounded === null) return;
    late.push(performance.now() - sounded);
    sounded = null;
    by("measured").textContent = `${late.length} of 8`;
    if (late.length < 8) next();
    else finish();
  };
  const next = () =>
    setTimeout(
      () => {
        const tone = new OscillatorNode(context, { frequency: 880 });
        tone.connect(context.destination);
        tone.start();
        tone.stop(context.currentTime + 0.05);
        sounded = performance.now();
      },
      700 + Math.random() * 1300,
    );
  const finish = () => {
    document.removeEventListener("keydown", answer, true);
    by("measured").removeEventListener("click", answer);
    const middle = Math.round(late.sort((a, b) => a - b)[4]);
    by("reaction").value = String(middle);
    localStorage.setItem(kept, String(middle));
    by("measured").textContent = `${middle} ms; it is taken off every stamp.`;
    context.close();
  };
  document.addEventListener("keydown", answer, true);
  by("measured").textContent = "Press space at every tone, eight times.";
  by("measure").blur();
  next();
});

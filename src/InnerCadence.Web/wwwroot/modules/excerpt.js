// Plays some seconds of a recording without saying which it is.
const button = document.getElementById("excerpt");
if (button) {
  const audio = new Audio(button.dataset.sound);
  const from = Number(button.dataset.from);
  button.hidden = false;
  button.addEventListener("click", () => {
    if (!audio.paused) {
      audio.pause();
      return;
    }
    audio.currentTime = from;
    audio.play();
  });
  audio.addEventListener("timeupdate", () => {
    if (audio.currentTime > from + 8) audio.pause();
  });
  for (const name of ["play", "pause"])
    audio.addEventListener(name, () => {
      button.firstChild.textContent = audio.paused ? "Hear the recording " : "Stop ";
    });
}

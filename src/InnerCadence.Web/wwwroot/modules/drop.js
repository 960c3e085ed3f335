// A file dropped on the page is opened as if it had been chosen.
const form = document.getElementById("open-file");
const field = form.querySelector("[type=file]");
document.getElementById("drop-here").hidden = false;
addEventListener("dragover", (event) => {
  if (event.dataTransfer?.types.includes("Files")) event.preventDefault();
});
addEventListener("drop", (event) => {
  const files = event.dataTransfer?.files;
  if (!files?.length) return;
  event.preventDefault();
  const chosen = new DataTransfer();
  chosen.items.add(files[0]);
  field.files = chosen.files;
  form.requestSubmit();
});

// Files dropped on any page are opened as if they had been chosen: a sound where this page takes one, all else where files are looked at.
const form = document.getElementById("dropped");
const told = document.getElementById("drop-told");
const sound = document.querySelector("form[data-takes=sound]");

const most = 64 * 1024 * 1024;

const say = (text) => {
  told.textContent = text;
  told.hidden = !text;
};

const hasFiles = (event) => event.dataTransfer?.types.includes("Files");

addEventListener("dragover", (event) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  say(
    sound
      ? "Drop: a sound is attached here, other files are shown before anything is kept."
      : "Drop: you see what the files are before anything is kept.",
  );
});

addEventListener("dragleave", (event) => {
  if (!event.relatedTarget) say("");
});

addEventListener("drop", async (event) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  const files = await filesOf(event.dataTransfer);
  if (files.length === 0) return say("There is no file in what was dropped.");
  if (!sound && files.every((file) => file.type.startsWith("audio/")))
    return say("A sound is attached on its recording’s Listen page: drop it there.");
  if (!sound && files.reduce((sum, file) => sum + file.size, 0) > most) return say("That is more than 64 MB: drop fewer files at once.");
  say(files.length === 1 ? `Opening ${files[0].name} …` : `Opening ${files.length} files …`);
  const into = sound && files.every((file) => file.type.startsWith("audio/")) ? sound : form;
  const chosen = new DataTransfer();
  for (const file of into === sound ? files.slice(0, 1) : files) chosen.items.add(file);
  into.querySelector("[type=file]").files = chosen.files;
  into.requestSubmit();
});

/** Every file of what was dropped, folders with all that is in them. */
async function filesOf(transfer) {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.()).filter(Boolean);
  if (!entries.some((entry) => entry.isDirectory)) return [...transfer.files];
  return (await Promise.all(entries.map(inside))).flat();
}

async function inside(entry) {
  if (entry.isFile) return [await new Promise((found, failed) => entry.file(found, failed))];
  const reader = entry.createReader();
  const all = [];
  for (;;) {
    // A reader gives at most a hundred at a time.
    const some = await new Promise((found, failed) => reader.readEntries(found, failed));
    if (some.length === 0) break;
    all.push(...some);
  }
  return (await Promise.all(all.map(inside))).flat();
}

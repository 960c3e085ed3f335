// Keeps what is typed into a form until the server says that it is kept: over a closed tab, a lost connection, a stopped server.
const prefix = "inner-cadence draft ";
const kept = document.querySelector('meta[name="kept"]')?.content;
if (kept) localStorage.removeItem(prefix + kept);

const form = document.querySelector("form[data-draft]");
if (form) {
  const key = prefix + location.pathname;
  const fields = () => [...form.elements].filter((field) => field.name && !field.name.startsWith("__") && field.type !== "hidden" && field.type !== "submit" && field.tagName !== "BUTTON");
  const state = () => fields().map((field) => [field.name, field.value, field.type === "checkbox" ? field.checked : null]);
  const fresh = JSON.stringify(state());
  const draft = localStorage.getItem(key);
  let saved = fresh;

  if (draft && JSON.parse(draft).state !== fresh && !document.querySelector("[aria-invalid]")) offer(JSON.parse(draft));

  const keep = () => {
    const now = JSON.stringify(state());
    if (now === saved) return;
    saved = now;
    if (now === fresh) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify({ at: new Date().toISOString(), state: now }));
  };
  form.addEventListener("input", keep);
  form.addEventListener("change", keep);

  function offer({ at, state: typed }) {
    const notice = document.createElement("div");
    notice.className = "notice warn";
    notice.setAttribute("role", "status");
    const words = document.createElement("p");
    words.textContent = `What you typed here on ${new Date(at).toLocaleString()} was not saved.`;
    notice.append(words, action("Take it up", () => take(JSON.parse(typed))), action("Discard it", () => localStorage.removeItem(key)));
    document.getElementById("main").prepend(notice);

    function action(label, does) {
      const button = document.createElement("button");
      button.type = "button";
      button.className = "btn small";
      button.textContent = label;
      button.addEventListener("click", () => { does(); notice.remove(); });
      return button;
    }
  }

  function take(typed) {
    const all = fields();
    typed.forEach(([name, value, checked], i) => {
      const field = all[i]?.name === name ? all[i] : all.find((other) => other.name === name);
      if (!field) return;
      if (checked === null) field.value = value;
      else field.checked = checked;
      field.dispatchEvent(new Event("input", { bubbles: true }));
    });
  }
}

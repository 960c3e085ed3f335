// A file of recordings is read again as soon as something about its columns is chosen; the place on the page stays.
const form = /** @type {HTMLFormElement} */ (document.querySelector("main form[method=post]:has(#columns)"));
const kept = "inner-cadence mapping";

form?.addEventListener("change", (event) => {
  const changed = /** @type {HTMLElement} */ (event.target);
  if (!changed.matches("select, [name=dayMonth], [name^=cell]")) return;
  sessionStorage.setItem(kept, JSON.stringify([location.pathname, scrollY, changed.id]));
  form.requestSubmit(form.querySelector("button[name=begin][value=false]"));
});

const [address, top, id] = JSON.parse(sessionStorage.getItem(kept) ?? "[]");
if (address === location.pathname) {
  sessionStorage.removeItem(kept);
  scrollTo(0, top);
  document.getElementById(id)?.focus({ preventScroll: true });
}

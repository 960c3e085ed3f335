// Keys that work on every page: / to jump, ? for the list of keys, and one letter for each action that a page offers.
document.addEventListener("keydown", (event) => {
  const target = /** @type {HTMLElement} */ (event.target);
  if (event.ctrlKey || event.metaKey || event.altKey) {
    const form = event.key === "Enter" && event.ctrlKey ? target.closest("form") : null;
    if (form) {
      event.preventDefault();
      // After the key has been dealt with: a form sent while Control is down would open in another tab.
      setTimeout(() => form.requestSubmit());
    }
    return;
  }
  if (target.matches("input:not([type=checkbox], [type=radio]), textarea, select")) {
    if (event.key === "Escape") target.blur();
    return;
  }
  // Whoever walks by Tab presses what the ring is round.
  if (event.key === " " && target.matches("a, button, summary, input, [role=button]") && target.matches(":focus-visible")) return;
  if (event.key === "/") {
    const jump = document.getElementById("jump");
    if (jump) {
      event.preventDefault();
      jump.focus();
    }
  } else if (event.key === "?") {
    location.href = "/keys";
  } else {
    const action = document.querySelector(`[data-key="${CSS.escape(event.key.toLowerCase())}"]`);
    if (action) {
      event.preventDefault();
      action.click();
    }
  }
});

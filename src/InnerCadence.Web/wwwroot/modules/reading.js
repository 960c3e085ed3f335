// Asks the server what a text says; it keeps nothing.
import { away, post } from "./page.js";

export async function ask(text, wanted) {
  const answer = await post(`/api/count-lines/parse?${new URLSearchParams(wanted)}`, { text });
  return answer?.ok ? answer.json() : null;
}

/** The text after a move, or why not: {text} or {why}. */
export async function edit(text, move) {
  const answer = await post("/api/count-lines/edit", { text, ...move });
  if (!answer) return { why: away("nothing was changed.") };
  const told = await answer.json();
  return answer.ok ? told : { why: told.detail };
}

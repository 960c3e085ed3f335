// How a page speaks with the server: every call ends in an answer, or in null where nobody answers.

/** What is told where nobody answers, with what it means there. */
export const away = (/** @type {string} */ meaning) => `The server does not answer; ${meaning}`;

/** @param {string} address @returns {Promise<Response | null>} */
export const get = (address) => fetch(address).catch(() => null);

/** @param {string} address @param {unknown} body @param {Record<string, string>} [headers] @returns {Promise<Response | null>} */
export const post = (address, body, headers = {}) =>
  fetch(address, { method: "POST", headers: { "Content-Type": "application/json", ...headers }, body: JSON.stringify(body) }).catch(
    () => null,
  );

/**
 * A form as it stands, for one part of its page.
 * @param {string} address @param {HTMLFormElement} form @param {string} part @returns {Promise<Response | null>}
 */
export const sendForm = (address, form, part) =>
  fetch(address, { method: "POST", body: new FormData(form), headers: { "X-Part": part } }).catch(() => null);

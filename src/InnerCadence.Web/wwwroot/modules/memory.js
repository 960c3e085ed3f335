// How it was heard last in this tab is how it is heard next, on whatever page.
const store = "inner-cadence hearing";
export const remembered = () => JSON.parse(sessionStorage.getItem(store) ?? "{}");
/** @param {object} what Is added to what is remembered. */
export const remember = (what) => sessionStorage.setItem(store, JSON.stringify({ ...remembered(), ...what }));

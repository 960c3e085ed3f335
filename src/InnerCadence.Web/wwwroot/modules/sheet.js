// Enter and the arrows go from row to row of a sheet, as Tab goes from field to field.
const sheet = document.getElementById("sheet");
sheet?.addEventListener("keydown", (event) => {
  const step = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (!step || event.ctrlKey || event.altKey || event.metaKey || event.shiftKey) return;
  if (event.key !== "Enter" && event.target.list && event.target.value) return;
  const cell = event.target.closest("td");
  const rows = [...sheet.tBodies[0].rows];
  const row = rows.indexOf(cell.parentElement) + step;
  event.preventDefault();
  const column = event.key === "Enter" && step > 0 && event.target.closest("td").cellIndex > 1 ? 1 : cell.cellIndex;
  rows[row]?.cells[column].querySelector("input").focus();
});
sheet?.querySelector("tbody input")?.focus();

// Prints the report.
const print = document.getElementById("print");
print.hidden = false;
print.addEventListener("click", () => window.print());

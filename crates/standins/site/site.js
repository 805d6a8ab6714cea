// Winterlode's own script: what visitors allow, and pages that change without loading.
const allowed = "winterlode-allows";
const tell = () => {
  const said = localStorage.getItem(allowed);
  if (said !== null && window.lumbo) window.lumbo.consent(said === "yes");
};
addEventListener("load", tell);
for (const [id, says] of [["allow", "yes"], ["refuse", "no"]]) {
  document.getElementById(id)?.addEventListener("click", () => {
    localStorage.setItem(allowed, says);
    tell();
  });
}
const seen = [];
window.winterlodeSaw = seen;
for (const what of ["shown", "opened", "started", "filed", "closed"]) {
  document.addEventListener(`lumbo:${what}`, (event) => seen.push([what, event.detail ?? null]));
}
for (const link of document.querySelectorAll("[data-turn]")) {
  link.addEventListener("click", (event) => {
    event.preventDefault();
    history.pushState({}, "", link.getAttribute("href"));
    document.querySelector("h1").textContent = link.textContent;
  });
}

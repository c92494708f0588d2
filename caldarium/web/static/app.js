// The bench's keys and the strip's pointer. All computing is on the server.
(() => {
  "use strict";

  const KEYS = {
    ArrowLeft: "previous-moment", ArrowRight: "next-moment",
    ArrowUp: "previous-person", ArrowDown: "next-person",
    n: "next-gap", p: "previous-gap", u: "undo", r: "redo",
  };

  function look(person, moment) {
    const query = new URLSearchParams({ person, moment });
    const address = `${location.pathname}?${query}`;
    history.replaceState(null, "", address);
    window.htmx.ajax("GET", address, { target: "#bench", swap: "morph:outerHTML" });
  }

  function showKeys() {
    const sheet = document.getElementById("keys");
    if (sheet && !sheet.open) sheet.showModal();
  }

  function typing(target) {
    return target.closest("input, select, textarea, dialog[open], .scroll");
  }

  document.addEventListener("click", (event) => {
    const cell = event.target.closest(".pick");
    if (cell) look(cell.dataset.person, cell.dataset.moment);
    const step = event.target.closest("a.move");
    if (step && !event.ctrlKey && !event.metaKey && !event.shiftKey) {
      event.preventDefault();
      const query = new URL(step.href).searchParams;
      look(query.get("person"), query.get("moment"));
    }
  });

  // One request at a time, in the order of the user's hands.
  let queue = Promise.resolve();
  function send(form, submitter) {
    const values = Object.fromEntries(new FormData(form, submitter));
    const address = submitter?.getAttribute("formaction") || form.getAttribute("action");
    const request = { values, target: "#bench", swap: "morph:outerHTML" };
    queue = queue.then(() => window.htmx.ajax("POST", address, request)).catch(() => {});
  }

  // Swapping takes two choices and a button; the first choice alone is no change.
  document.addEventListener("change", (event) => {
    const form = event.target.closest("#edit");
    if (form && !event.target.matches("[data-quiet]")) send(form);
  });

  // Enter in a field has already told its change; every other button sends itself.
  document.addEventListener("submit", (event) => {
    if (event.target.id !== "edit") return;
    event.preventDefault();
    if (!event.submitter?.matches(".first-submit, [aria-disabled]")) send(event.target, event.submitter);
  });

  document.addEventListener("keydown", (event) => {
    if (!document.getElementById("bench") || typing(event.target)) return;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "?") return showKeys();
    if (event.key === "c") {
      event.preventDefault();
      return document.querySelector(".conditions input")?.focus();
    }
    if (/^[1-9]$/.test(event.key)) {
      return document.querySelectorAll(".piece")[Number(event.key) - 1]?.click();
    }
    const control = document.getElementById(KEYS[event.key]);
    if (control) {
      event.preventDefault();
      control.click();
    }
  });

  document.addEventListener("alpine:init", () => {
    window.Alpine.data("bench", () => ({ showKeys }));
  });

  // Panels that the user opened stay open when the bench is redrawn.
  if (window.Idiomorph) {
    window.Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name) => name !== "open";
  }
})();

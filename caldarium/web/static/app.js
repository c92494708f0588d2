// The bench's keys and the strip's pointer. All computing is on the server.
(() => {
  "use strict";

  const KEYS = {
    ArrowLeft: "previous-moment", ArrowRight: "next-moment",
    ArrowUp: "previous-person", ArrowDown: "next-person",
    n: "next-gap", p: "previous-gap", u: "undo", r: "redo", z: "zoom",
    d: "worst-dawn", s: "worst-setting-out", m: "worst-moving", h: "worst-halt",
    v: "compare", o: "worst-hold", a: "worst-camp", b: "worst-night",
  };

  // One request at a time, in the order of the user's hands.
  let queue = Promise.resolve();

  function look(person, moment, zoom) {
    const query = new URLSearchParams({ person, moment });
    const now = document.querySelector("#edit [name=zoom]")?.value;
    if (zoom ?? now) query.set("zoom", zoom ?? now);
    for (const each of document.querySelectorAll("#dial input")) if (each.value.trim()) query.set(each.name, each.value);
    const address = `${location.pathname}?${query}`;
    history.replaceState(null, "", address);
    const request = { target: "#live", swap: "morph:outerHTML" };
    queue = queue.then(() => window.htmx.ajax("GET", address, request)).catch(() => {});
  }

  // The server draws only the strip that this window shows.
  const narrow = window.matchMedia("(max-width: 760px)");
  function sayWidth() {
    document.cookie = `window=${narrow.matches ? "narrow" : "wide"}; path=/; max-age=31536000; SameSite=Strict`;
  }
  sayWidth();
  document.addEventListener("htmx:configRequest", sayWidth);
  narrow.addEventListener("change", () => {
    const form = document.getElementById("edit");
    if (form?.elements.moment) look(form.elements.person?.value ?? "", form.elements.moment.value);
  });

  function showKeys() {
    const sheet = document.getElementById("keys");
    if (sheet && !sheet.open) sheet.showModal();
  }

  function dialBack() {
    for (const each of document.querySelectorAll("#dial input")) each.value = "";
    send(document.getElementById("edit"));
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
      const zoomed = step.closest(".days") || step.id === "zoom";
      look(query.get("person"), query.get("moment"), zoomed ? query.get("zoom") || "" : undefined);
    }
  });

  function sendValues(form, values) {
    const kept = Object.fromEntries(["person", "moment", "day", "zoom"].map((name) => [name, form.elements[name]?.value ?? ""]));
    const request = { values: { ...kept, ...values }, target: "#live", swap: "morph:outerHTML" };
    queue = queue.then(() => window.htmx.ajax("POST", form.getAttribute("action"), request)).catch(() => {});
  }
  function send(form, submitter) {
    const values = Object.fromEntries(new FormData(form, submitter));
    const address = submitter?.getAttribute("formaction") || form.getAttribute("action");
    const request = { values, target: "#live", swap: "morph:outerHTML" };
    queue = queue.then(() => window.htmx.ajax("POST", address, request)).catch(() => {});
  }

  // A leg on the strip is dragged to another start; the strip says which hour stands where.
  let dragged = null;
  function hourAt(strip, clientX) {
    const box = strip.getBoundingClientRect();
    const x = ((clientX - box.left) * strip.viewBox.baseVal.width) / box.width;
    const steps = JSON.parse(strip.dataset.axis);
    const after = steps.findIndex((step) => step[1] > x);
    if (after <= 0) return steps[after === 0 ? 0 : steps.length - 1][0];
    const [[t0, x0], [t1, x1]] = [steps[after - 1], steps[after]];
    return t0 + ((x - x0) / (x1 - x0)) * (t1 - t0);
  }
  document.addEventListener("pointerdown", (event) => {
    const leg = event.target.closest(".hold-leg");
    if (!leg) return;
    const strip = leg.closest("svg");
    dragged = { leg, strip, from: event.clientX, hour: hourAt(strip, event.clientX) };
    event.preventDefault();
  });
  document.addEventListener("pointermove", (event) => {
    if (!dragged) return;
    const scale = dragged.strip.viewBox.baseVal.width / dragged.strip.getBoundingClientRect().width;
    dragged.leg.setAttribute("transform", `translate(${(event.clientX - dragged.from) * scale} 0)`);
  });
  document.addEventListener("pointerup", (event) => {
    if (!dragged) return;
    const { leg, strip, from, hour } = dragged;
    dragged = null;
    leg.removeAttribute("transform");
    if (Math.abs(event.clientX - from) < 4) return;
    const start = Number(leg.dataset.start) + hourAt(strip, event.clientX) - hour;
    const form = document.getElementById("edit");
    form.elements.day.value = leg.dataset.day;
    sendValues(form, { act: `start=${leg.dataset.leg}@${start.toFixed(3)}` });
  });

  // Something is dragged from one home to another, and a field of a form says so.
  const draggable = (what, home, formName, submitter, fieldOf) => {
    let held = null;
    document.addEventListener("pointerdown", (event) => {
      held = event.target.closest(what);
      if (!held) return;
      held.classList.add("held");
      event.preventDefault();
    });
    document.addEventListener("pointerup", (event) => {
      if (!held) return;
      const moved = held;
      held = null;
      moved.classList.remove("held");
      const from = moved.closest(`[data-${home}]`)?.dataset[home];
      const under = document.elementFromPoint(event.clientX, event.clientY);
      const onto = under?.closest(`[data-${home}]`)?.dataset[home];
      const form = document.getElementById(formName);
      if (from === undefined || onto === undefined || onto === from || !form) return;
      form.elements[fieldOf(moved.dataset)].value = onto;
      form.requestSubmit(document.getElementById(submitter));
    });
  };
  draggable(".sleeper", "shelter", "who-where", "assign", ({ person }) => `in.${person}`);
  draggable(".chip", "back", "share", "carry", ({ unit }) => `carry.${unit}`);

  // A click on a recorded way adds a cut to the field, for the user to send.
  document.addEventListener("click", (event) => {
    const way = event.target.closest("svg.way");
    const field = document.getElementById("cuts");
    if (!way || !field) return;
    const box = way.getBoundingClientRect();
    const x = ((event.clientX - box.left) * way.viewBox.baseVal.width) / box.width;
    const { km, left, right } = way.dataset;
    const at = ((x - left) / (right - left)) * km;
    if (at <= 0 || at >= km) return;
    const cut = at.toFixed(1) + (event.shiftKey ? "n" : "");
    field.value = field.value.trim() ? `${field.value.trim()}, ${cut}` : cut;
    field.form.requestSubmit(field.form.querySelector("[value=look]"));
  });

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
    if (!document.getElementById("live") || typing(event.target)) return;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "?") return showKeys();
    if (event.key === "k") {
      const caution = document.getElementById("caution");
      caution.selectedIndex = (caution.selectedIndex + 1) % caution.options.length;
      return send(document.getElementById("edit"));
    }
    if (event.key === "w" && document.getElementById("dial")) {
      event.preventDefault();
      document.getElementById("dial").open = true;
      return document.querySelector("#dial input").focus();
    }
    if (event.key === "[" || event.key === "]") {
      const leg = document.querySelector("[name=moment]").value.split(".")[1];
      return document.getElementById(`${event.key === "[" ? "earlier" : "later"}-${leg}`)?.click();
    }
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
    window.Alpine.data("bench", () => ({ showKeys, dialBack }));
  });

  // Panels that the user opened stay open when the bench is redrawn.
  if (window.Idiomorph) {
    window.Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name) => name !== "open";
  }
})();

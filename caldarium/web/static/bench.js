// Small behaviours of the pages, as Alpine components. All computing is on the server.
(() => {
  "use strict";

  const KEYS = {
    ArrowLeft: "previous-moment", ArrowRight: "next-moment",
    ArrowUp: "previous-person", ArrowDown: "next-person",
    n: "next-gap", p: "previous-gap", u: "undo", r: "redo", z: "zoom",
    d: "worst-dawn", s: "worst-setting-out", m: "worst-moving", h: "worst-halt",
    v: "compare", o: "worst-hold", a: "worst-camp", b: "worst-night",
  };
  const EDIT = () => document.getElementById("edit");
  const REDRAWN = { target: "#live", swap: "morph:outerHTML" };

  // One request at a time, in the order of the user's hands. A change made while an earlier one is
  // on its way begins from the state in which that one ended, not from the one its page showed.
  let queue = Promise.resolve();
  const ended = new Map();
  const mark = () => EDIT()?.elements.mark?.value;
  const number = (text) => Number.parseInt(text, 10);
  async function inTurn(verb, address, values) {
    const shown = values?.mark;
    if (ended.has(shown)) values.mark = ended.get(shown);
    const from = values?.mark;
    await window.htmx.ajax(verb, address, { ...REDRAWN, values });
    if (shown && Math.abs(number(mark()) - number(from)) === 1) ended.set(shown, mark());
    ended.delete(mark());
  }
  function ask(verb, address, values) {
    queue = queue.then(() => inTurn(verb, address, values)).catch(() => {});
  }

  function look(person, moment, zoom) {
    const query = new URLSearchParams({ person, moment });
    const now = EDIT()?.elements.zoom?.value;
    if (zoom ?? now) query.set("zoom", zoom ?? now);
    for (const each of document.querySelectorAll("#dial input")) if (each.value.trim()) query.set(each.name, each.value);
    const address = `${location.pathname}?${query}`;
    history.replaceState(null, "", address);
    ask("GET", address);
  }

  function send(form, submitter) {
    const address = submitter?.getAttribute("formaction") || form.getAttribute("action");
    ask("POST", address, Object.fromEntries(new FormData(form, submitter)));
  }

  function sendValues(form, values) {
    const kept = ["person", "moment", "day", "zoom", "mark"].map((name) => [name, form.elements[name]?.value ?? ""]);
    ask("POST", form.getAttribute("action"), { ...Object.fromEntries(kept), ...values });
  }

  window.matchMedia("(max-width: 760px)").addEventListener("change", () => {
    const form = EDIT();
    if (form?.elements.moment) look(form.elements.person?.value ?? "", form.elements.moment.value);
  });

  // The steps of the work by keys, on every page that has its bar.
  function step(forward) {
    const doors = [...document.querySelectorAll("#work-bar a")];
    const here = doors.findIndex((each) => each.hasAttribute("aria-current"));
    doors[(here + (forward ? 1 : doors.length - 1)) % doors.length]?.click();
  }

  // Where a move led is said to who cannot see it: person, moment and state.
  let told = "";
  document.addEventListener("htmx:afterSettle", () => {
    const words = document.querySelector("#live [data-moved]")?.dataset.moved ?? "";
    if (words && words !== told) document.getElementById("moved").textContent = words;
    told = words;
  });

  function showKeys() {
    const sheet = document.getElementById("keys");
    if (sheet && !sheet.open) sheet.showModal();
  }

  const typing = (target) => target.closest("input, select, textarea, dialog[open], .scroll");

  // Keys of every page: undo and redo everywhere, the rest where there is something to move in.
  function key(event) {
    if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
    if (document.getElementById("live") && benchKey(event)) return;
    if (event.key === "?") showKeys();
    else if (event.key === "." || event.key === ",") step(event.key === ".");
    const control = document.getElementById(KEYS[event.key]);
    if (control && !control.matches("[aria-disabled]")) {
      event.preventDefault();
      control.click();
    }
  }

  function benchKey(event) {
    if (event.key === "k") {
      const caution = document.getElementById("caution");
      caution.selectedIndex = (caution.selectedIndex + 1) % caution.options.length;
      send(EDIT());
    } else if (event.key === "w" && document.getElementById("dial")) {
      event.preventDefault();
      document.getElementById("dial").open = true;
      document.querySelector("#dial input").focus();
    } else if (event.key === "[" || event.key === "]") {
      const leg = document.querySelector("[name=moment]").value.split(".")[1];
      document.getElementById(`${event.key === "[" ? "earlier" : "later"}-${leg}`)?.click();
    } else if (event.key === "c") {
      event.preventDefault();
      document.querySelector(".conditions input")?.focus();
    } else if (/^[1-9]$/.test(event.key)) {
      document.querySelectorAll(".piece")[Number(event.key) - 1]?.click();
    } else return false;
    return true;
  }

  // A leg on the strip is dragged to another start; the strip says which hour stands where.
  function hourAt(strip, clientX) {
    const box = strip.getBoundingClientRect();
    const x = ((clientX - box.left) * strip.viewBox.baseVal.width) / box.width;
    const steps = JSON.parse(strip.dataset.axis);
    const after = steps.findIndex((step) => step[1] > x);
    if (after <= 0) return steps[after === 0 ? 0 : steps.length - 1][0];
    const [[t0, x0], [t1, x1]] = [steps[after - 1], steps[after]];
    return t0 + ((x - x0) / (x1 - x0)) * (t1 - t0);
  }

  const bench = () => ({
    held: null,
    showKeys,
    dialBack() {
      for (const each of document.querySelectorAll("#dial input")) each.value = "";
      send(EDIT());
    },
    pick(event) {
      const cell = event.target.closest(".pick");
      if (cell) look(cell.dataset.person, cell.dataset.moment);
      const step = event.target.closest("a.move");
      if (!step || event.ctrlKey || event.metaKey || event.shiftKey) return;
      event.preventDefault();
      const query = new URL(step.href).searchParams;
      const zoomed = step.closest(".days") || step.id === "zoom";
      look(query.get("person"), query.get("moment"), zoomed ? query.get("zoom") || "" : undefined);
    },
    // Swapping takes two choices and a button; the first choice alone is no change.
    changed(event) {
      if (event.target.closest("#edit") && !event.target.matches("[data-quiet]")) send(EDIT());
    },
    // Enter in a field has already told its change; every other button sends itself.
    submitted(event) {
      if (event.target.id !== "edit") return;
      event.preventDefault();
      if (!event.submitter?.matches(".first-submit, [aria-disabled]")) send(event.target, event.submitter);
    },
    grab(event) {
      const leg = event.target.closest(".hold-leg");
      if (!leg) return;
      const strip = leg.closest("svg");
      this.held = { leg, strip, from: event.clientX, hour: hourAt(strip, event.clientX) };
      event.preventDefault();
    },
    drag(event) {
      if (!this.held) return;
      const { leg, strip, from } = this.held;
      const scale = strip.viewBox.baseVal.width / strip.getBoundingClientRect().width;
      leg.setAttribute("transform", `translate(${(event.clientX - from) * scale} 0)`);
    },
    drop(event) {
      if (!this.held) return;
      const { leg, strip, from, hour } = this.held;
      this.held = null;
      leg.removeAttribute("transform");
      if (Math.abs(event.clientX - from) < 4) return;
      const start = Number(leg.dataset.start) + hourAt(strip, event.clientX) - hour;
      EDIT().elements.day.value = leg.dataset.day;
      sendValues(EDIT(), { act: `start=${leg.dataset.leg}@${start.toFixed(3)}` });
    },
  });

  // Something is dragged from one home to another, and a field of a form says so.
  const carried = (what, home, formName, submitter, fieldOf) => () => ({
    held: null,
    grab(event) {
      this.held = event.target.closest(what);
      if (!this.held) return;
      this.held.classList.add("held");
      event.preventDefault();
    },
    drop(event) {
      if (!this.held) return;
      const moved = this.held;
      this.held = null;
      moved.classList.remove("held");
      const from = moved.closest(`[data-${home}]`)?.dataset[home];
      const under = document.elementFromPoint(event.clientX, event.clientY);
      const onto = under?.closest(`[data-${home}]`)?.dataset[home];
      const form = document.getElementById(formName);
      if (from === undefined || onto === undefined || onto === from || !form) return;
      form.elements[fieldOf(moved.dataset)].value = onto;
      // A click, as the script that sends forms takes the button clicked last for the one meant.
      document.getElementById(submitter).click();
    },
  });

  // A click on a recorded way adds a cut to the field, for the user to send.
  const way = () => ({
    cut(event) {
      const drawn = event.target.closest("svg.way");
      const field = document.getElementById("cuts");
      if (!drawn || !field) return;
      const box = drawn.getBoundingClientRect();
      const x = ((event.clientX - box.left) * drawn.viewBox.baseVal.width) / box.width;
      const { km, left, right } = drawn.dataset;
      const at = ((x - left) / (right - left)) * km;
      if (at <= 0 || at >= km) return;
      const cut = at.toFixed(1) + (event.shiftKey ? "n" : "");
      field.value = field.value.trim() ? `${field.value.trim()}, ${cut}` : cut;
      field.form.querySelector("[value=look]").click();
    },
  });

  document.addEventListener("alpine:init", () => {
    window.Alpine.data("page", () => ({ key }));
    window.Alpine.data("bench", bench);
    window.Alpine.data("sleepers", carried(".sleeper", "shelter", "who-where", "assign", ({ person }) => `in.${person}`));
    window.Alpine.data("chips", carried(".chip", "back", "share", "carry", ({ unit }) => `carry.${unit}`));
    window.Alpine.data("things", carried(".chip-thing", "zone", "places", "place", ({ piece }) => `zone.${piece}`));
    window.Alpine.data("way", way);
  });
})();

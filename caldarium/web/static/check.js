// The check at the table: lines are ticked with or without the server.
(() => {
  "use strict";

  const room = () => document.querySelector("[data-check]");
  const box = window.caldariumOutbox.outbox({
    prefix: () => (room() ? `caldarium.check.${room().dataset.check}.` : ""),
    address: () => room().dataset.tell,
    thing: "tap",
  });
  const sayer = () => document.getElementById("checked-by");

  function formOf(event) {
    return [...document.querySelectorAll("form.tick")].find(
      (form) =>
        form.elements.list.value === event.list &&
        form.elements.entry.value === event.entry &&
        form.elements.line_of.value === event.subject,
    );
  }

  function show(event) {
    const form = formOf(event);
    if (!form) return;
    form.dataset.said = event.said;
    form.querySelector("[data-said-words]").textContent =
      room().dataset[event.said] + (event.tag ? ` ${event.tag}` : "") + (event.note ? `: ${event.note}` : "");
    for (const button of form.querySelectorAll("button[value^='said=']")) {
      button.setAttribute("aria-pressed", String(button.value === `said=${event.said}`));
    }
    const person = form.closest("[data-subject]");
    const lines = [...person.querySelectorAll("form.tick")];
    const absent = lines.filter((each) => each.dataset.said === "no").length;
    person.querySelector("[data-seen]").textContent = lines.filter((each) => each.dataset.said).length;
    person.querySelector("[data-absent]").textContent = absent;
    person.querySelector("[data-absent-words]").hidden = !absent;
  }

  function tell(form, said, tag, note) {
    const fields = form.elements;
    const event = {
      kind: "tick", subject: fields.line_of.value, list: fields.list.value, entry: fields.entry.value, said, tag, note,
    };
    if (!box.put({ by: sayer().value.trim(), event })) return false;
    show(event);
    return true;
  }

  document.addEventListener("submit", (event) => {
    const form = event.target;
    if (!form.matches?.("form.tick")) return;
    const said = (event.submitter?.value ?? "").replace("said=", "");
    if (!["yes", "no", "lent"].includes(said)) return;
    const lent = said === "lent";
    const tag = lent ? form.elements.tag.value.trim() : "";
    const note = lent ? form.elements.note.value.trim() : "";
    if (!tell(form, said, tag, note)) return;
    event.preventDefault();
    if (lent) form.querySelector("details.lent").open = false;
  });

  // A word leaves the lines that have it; a tag and Enter ticks the line that it meets.
  document.addEventListener("input", (event) => {
    if (event.target.id !== "find") return;
    const wanted = event.target.value.trim().toLowerCase();
    for (const form of document.querySelectorAll("form.tick")) {
      const tags = form.dataset.tags.split(" ");
      form.hidden = wanted !== "" && !form.dataset.text.includes(wanted) && !tags.includes(wanted);
    }
  });
  document.addEventListener("keydown", (event) => {
    if (event.target.id !== "find" || event.key !== "Enter") return;
    event.preventDefault();
    const wanted = event.target.value.trim().toLowerCase();
    const open = document.querySelector("details.to-check[open]") ?? room();
    const form = [...open.querySelectorAll("form.tick")].find((each) => each.dataset.tags.split(" ").includes(wanted));
    if (!form || !wanted) {
      box.status(wanted ? `No open line is met by “${event.target.value.trim()}”.` : "Type a word, or scan a tag.");
      return;
    }
    tell(form, "yes", event.target.value.trim(), "");
    event.target.value = "";
    event.target.dispatchEvent(new Event("input", { bubbles: true }));
  });

  function begin() {
    if (!room()) return;
    window.caldariumOutbox.whoWrites(sayer());
    for (const told of box.waiting()) show(told.event);
    if (box.waiting().length) box.send();
  }
  document.addEventListener("DOMContentLoaded", begin);
  document.addEventListener("htmx:afterSettle", begin);
})();

// The diary: every answer is a small form of its own, told with or without the server.
(() => {
  "use strict";

  const room = () => document.querySelector("[data-diary]");
  const box = window.caldariumOutbox.outbox({
    prefix: () => (room() ? `caldarium.diary.${room().dataset.diary}.` : ""),
    address: () => room().dataset.tell,
    thing: "answer",
    sent: (kept) => kept.forEach((told) => show(told, "told")),
    notTaken: refuse,
  });
  const sayer = () => document.getElementById("checked-by");

  function fieldsOf(form, submitter) {
    const found = {};
    for (const [name, value] of new FormData(form, submitter)) {
      if (name in found) found[name] = [found[name], value].flat();
      else found[name] = value;
    }
    return found;
  }

  const formOf = (key) => [...document.querySelectorAll("form.answer")].find((each) => each.dataset.key === key);

  function show({ key, fields }, words) {
    const form = formOf(key);
    if (!form) return;
    for (const button of form.querySelectorAll("button[name='felt']")) {
      button.setAttribute("aria-pressed", String(button.value === fields.felt));
    }
    const told = form.querySelector("[data-told]");
    if (told) told.textContent = words;
  }

  // What was typed stays in its field; of an answer told on another page the words say what it was.
  function refuse(told, why) {
    const form = told && formOf(told.key);
    if (!form) return;
    show({ ...told, fields: {} }, `not kept: ${why}`);
    form.querySelector("[data-told]")?.setAttribute("role", "alert");
    form.closest("details.more")?.setAttribute("open", "");
  }

  document.addEventListener("submit", (event) => {
    const form = event.target;
    if (!form.matches?.("form.answer")) return;
    const fields = fieldsOf(form, event.submitter);
    const told = box.put({ by: sayer().value.trim(), key: form.dataset.key, fields });
    if (!told) return;
    event.preventDefault();
    show(told, "kept here");
    form.closest("details.more")?.removeAttribute("open");
  });

  function begin() {
    if (!room()) return;
    window.caldariumOutbox.whoWrites(sayer());
    for (const told of box.waiting()) show(told, "kept here");
    if (box.waiting().length) box.send();
  }
  document.addEventListener("DOMContentLoaded", begin);
  document.addEventListener("htmx:afterSettle", begin);
})();

// The check at the table: what is tapped is kept in this browser at once, and sent when the server
// answers. Everything told has a token of its own, so that what is sent twice is kept once.
(() => {
  "use strict";

  const RETRY_MS = 4000;
  const room = () => document.querySelector("[data-check]");
  const prefix = () => `caldarium.check.${room().dataset.check}.`;
  const sayer = () => document.getElementById("checked-by");
  let sending = false;
  let later = null;

  function waiting() {
    const found = [];
    for (let at = 0; at < localStorage.length; at += 1) {
      const key = localStorage.key(at);
      if (!key.startsWith(prefix())) continue;
      try {
        found.push(JSON.parse(localStorage.getItem(key)));
      } catch {
        localStorage.removeItem(key);
      }
    }
    return found.sort((one, other) => one.at.localeCompare(other.at));
  }

  function status(words) {
    const told = document.getElementById("sending");
    if (told) told.textContent = words;
  }

  function count(said) {
    return `${said} ${said === 1 ? "tap" : "taps"}`;
  }

  async function send() {
    if (!room() || sending) return;
    const told = waiting().slice(0, 200);
    if (!told.length) {
      status("Everything is with the server.");
      return;
    }
    sending = true;
    clearTimeout(later);
    try {
      const answer = await fetch(room().dataset.tell, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ told }),
      });
      if (!answer.ok) throw new Error(String(answer.status));
      const { kept, refused } = await answer.json();
      for (const token of [...kept, ...refused.map((each) => each.token)]) localStorage.removeItem(prefix() + token);
      const left = waiting().length;
      status(refused.length ? `Not taken: ${refused[0].why}.` : left ? `${count(left)} still to send.` : "Everything is with the server.");
      sending = false;
      if (left) send();
    } catch {
      sending = false;
      status(`The server does not answer: ${count(waiting().length)} kept in this browser, sent as soon as it does. Go on.`);
      later = setTimeout(send, RETRY_MS);
    }
  }

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

  function token() {
    const bytes = crypto.getRandomValues(new Uint8Array(16));
    return [...bytes].map((each) => each.toString(16).padStart(2, "0")).join("");
  }

  function tell(form, said, tag, note) {
    const fields = form.elements;
    const event = {
      kind: "tick", subject: fields.line_of.value, list: fields.list.value, entry: fields.entry.value, said, tag, note,
    };
    const told = { token: token(), at: new Date().toISOString(), by: sayer().value.trim(), event };
    try {
      localStorage.setItem(prefix() + told.token, JSON.stringify(told));
    } catch {
      // No room in this browser: the form goes to the server by itself.
      return false;
    }
    show(event);
    send();
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
    if (event.target.id === "find") {
      const wanted = event.target.value.trim().toLowerCase();
      for (const form of document.querySelectorAll("form.tick")) {
        const tags = form.dataset.tags.split(" ");
        form.hidden = wanted !== "" && !form.dataset.text.includes(wanted) && !tags.includes(wanted);
      }
    } else if (event.target.id === "checked-by") {
      localStorage.setItem("caldarium.checked-by", event.target.value);
      named();
    }
  });
  document.addEventListener("keydown", (event) => {
    if (event.target.id !== "find" || event.key !== "Enter") return;
    event.preventDefault();
    const wanted = event.target.value.trim().toLowerCase();
    const open = document.querySelector("details.to-check[open]") ?? room();
    const form = [...open.querySelectorAll("form.tick")].find((each) => each.dataset.tags.split(" ").includes(wanted));
    if (!form || !wanted) {
      status(wanted ? `No open line is met by “${event.target.value.trim()}”.` : "Type a word, or scan a tag.");
      return;
    }
    tell(form, "yes", event.target.value.trim(), "");
    event.target.value = "";
    event.target.dispatchEvent(new Event("input", { bubbles: true }));
  });

  function named() {
    for (const field of document.querySelectorAll("[data-by]")) field.value = sayer().value;
  }

  function begin() {
    if (!room()) return;
    sayer().value ||= localStorage.getItem("caldarium.checked-by") ?? "";
    named();
    for (const told of waiting()) show(told.event);
    if (waiting().length) send();
  }
  window.addEventListener("online", send);
  document.addEventListener("DOMContentLoaded", begin);
  document.addEventListener("htmx:afterSettle", begin);
})();

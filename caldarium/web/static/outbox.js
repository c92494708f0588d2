// Things that are told of at a page are kept in this browser at once, and sent when the server
// answers. Each has a token of its own, so that what is sent twice is kept once.
(() => {
  "use strict";

  const RETRY_MS = 4000;
  const BATCH = 200;

  function token() {
    const bytes = crypto.getRandomValues(new Uint8Array(16));
    return [...bytes].map((each) => each.toString(16).padStart(2, "0")).join("");
  }

  // prefix: of keys in this browser; address: to send to, both asked for at each use, as pages are
  // exchanged under a running script; thing: what one is called; sent: told of what was kept;
  // notTaken: of what was not, and why.
  function outbox({ prefix, address, thing, sent = () => {}, notTaken = () => {} }) {
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

    function count(many) {
      return `${many} ${many === 1 ? thing : `${thing}s`}`;
    }

    // What was typed, so that nothing is lost where its page was left.
    function whatOf(told, { token: which }) {
      const fields = told.find((each) => each.token === which)?.fields;
      const typed = ["person", "woke", "minutes", "hours", "grams"].map((name) => fields?.[name]).filter(Boolean);
      return typed.length ? ` (${typed.join(", ")})` : "";
    }

    async function send() {
      if (!prefix() || sending) return;
      const told = waiting().slice(0, BATCH);
      if (!told.length) {
        status("Everything is with the server.");
        return;
      }
      sending = true;
      clearTimeout(later);
      status(`Sending ${count(told.length)}.`);
      try {
        const answer = await fetch(address(), {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ told }),
        });
        if (!answer.ok) throw new Error(String(answer.status));
        const { kept, refused } = await answer.json();
        for (const done of [...kept, ...refused.map((each) => each.token)]) localStorage.removeItem(prefix() + done);
        sent(told.filter((each) => kept.includes(each.token)));
        for (const each of refused) notTaken(told.find((one) => one.token === each.token), each.why);
        const left = waiting().length;
        status(refused.length ? `Not taken${whatOf(told, refused[0])}: ${refused[0].why}.` : left ? `${count(left)} still to send.` : "Everything is with the server.");
        sending = false;
        if (left) send();
      } catch {
        sending = false;
        status(`The server does not answer: ${count(waiting().length)} kept in this browser, sent as soon as it does. Go on.`);
        later = setTimeout(send, RETRY_MS);
      }
    }

    // Whether there was room to keep it; without, the form goes to the server by itself.
    function put(what) {
      const told = { token: token(), at: new Date().toISOString(), ...what };
      try {
        localStorage.setItem(prefix() + told.token, JSON.stringify(told));
      } catch {
        return null;
      }
      send();
      return told;
    }

    window.addEventListener("online", send);
    return { waiting, status, send, put };
  }

  // Who writes is one person for all pages of this browser.
  function whoWrites(field) {
    field.value ||= localStorage.getItem("caldarium.checked-by") ?? "";
    for (const hidden of document.querySelectorAll("[data-by]")) hidden.value = field.value;
  }
  document.addEventListener("input", (event) => {
    if (event.target.id !== "checked-by") return;
    localStorage.setItem("caldarium.checked-by", event.target.value);
    whoWrites(event.target);
  });

  window.caldariumOutbox = { outbox, whoWrites };
})();

// Every change goes to the server and comes back as a page; what is not kept is said where it was made.
(() => {
  "use strict";

  // The server draws only the strip that this window shows.
  const narrow = window.matchMedia("(max-width: 760px)");
  function sayWidth() {
    document.cookie = `window=${narrow.matches ? "narrow" : "wide"}; path=/; max-age=31536000; SameSite=Strict`;
  }
  sayWidth();
  // On a narrow screen the bar is one line that slides; the step shown is in it.
  document.querySelector("#work-bar [aria-current]")?.scrollIntoView({ block: "nearest", inline: "center" });
  document.addEventListener("htmx:configRequest", sayWidth);
  // Parts that are shown already are not sent again.
  document.addEventListener("htmx:configRequest", (event) => {
    if (event.detail.target?.id !== "live") return;
    const parts = [...event.detail.target.querySelectorAll("[data-sum]")];
    event.detail.headers["X-Parts"] = parts.map((each) => `${each.dataset.part}:${each.dataset.sum}`).join(" ");
  });

  // Panels that the user opened stay open when the page is redrawn, and what was typed into other
  // forms than the one that was sent stays typed.
  // A part of a page that comes by itself is no change of the user's, and says nothing of one.
  const byItself = (event) => event.detail.requestConfig?.elt?.matches?.("[hx-trigger=load]");
  let sent = null;
  let sentValues = null;
  const sentWith = new WeakMap();
  let before = location.pathname;
  document.addEventListener("htmx:beforeRequest", (event) => {
    if (byItself(event)) return;
    sent = event.detail.elt.closest?.("form") ?? document.getElementById("edit");
    sentWith.set(event.detail.xhr, [sent, sent && new FormData(sent)]);
    before = location.pathname;
  });
  // Requests can be on their way beside each other: each answer is held against what it was asked
  // with, so that what was typed into the same form since then stays too.
  document.addEventListener("htmx:beforeSwap", (event) => {
    [sent, sentValues] = sentWith.get(event.detail.xhr) ?? [sent, null];
  });
  const typed = (field) =>
    field.matches?.("input:not([type=hidden], [type=file], [type=checkbox]), textarea") && field.form &&
    (field.form === sent ? sentValues !== null && field.value !== sentValues.get(field.name) : field.value !== field.defaultValue);
  if (window.Idiomorph) {
    const callbacks = window.Idiomorph.defaults.callbacks;
    callbacks.beforeAttributeUpdated = (name) => name !== "open";
    callbacks.beforeNodeMorphed = (old, fresh) => {
      if (fresh.dataset && "same" in fresh.dataset) return false;
      if (typed(old) && fresh.matches?.("input, textarea")) fresh.value = old.value;
    };
  }
  document.addEventListener("htmx:afterSettle", () => {
    if (location.pathname !== before) window.scrollTo(0, 0);
    before = location.pathname;
  });

  let touched = null;
  document.addEventListener("change", (event) => { touched = event.target; }, true);
  document.addEventListener("click", (event) => { touched = event.target.closest("button") ?? touched; }, true);

  // Not kept: said at the form, with what was typed left in it, and offered again.
  function notKept(detail, why) {
    const asked = detail.requestConfig;
    const changes = asked && asked.verb !== "get";
    const form = asked?.elt?.closest?.("form") ?? document.getElementById("edit") ?? document.getElementById("main");
    if (!form) return;
    form.querySelector(".not-kept")?.remove();
    const told = document.createElement("p");
    told.className = "not-kept message is-small is-danger message-body";
    told.setAttribute("role", "alert");
    told.append(`${changes ? "Not kept" : "Not shown"}: ${why} `);
    const again = document.createElement("button");
    again.type = "button";
    again.className = "button is-small";
    again.textContent = "Try again";
    again.addEventListener("click", () => {
      told.remove();
      const { verb, path, parameters, target } = asked;
      window.htmx.ajax(verb.toUpperCase(), path, {
        values: parameters, target,
        swap: target?.id === "live" ? "morph:outerHTML" : "morph:innerHTML show:none",
      });
    });
    told.append(again);
    const at = [touched, document.activeElement].find((each) => each && form.contains(each));
    const near = at?.closest(".entry, .fields, .swap, .tools");
    if (near) near.after(told);
    else form.prepend(told);
  }
  document.addEventListener("htmx:sendError", (event) => {
    if (byItself(event)) return;
    notKept(event.detail, "the server does not answer. What you typed is still here.");
  });
  document.addEventListener("htmx:timeout", (event) => {
    if (byItself(event)) return;
    notKept(event.detail, "the server takes too long. What you typed is still here.");
  });
  document.addEventListener("htmx:responseError", (event) => {
    if (byItself(event)) return;
    const page = new DOMParser().parseFromString(event.detail.xhr.responseText, "text/html");
    const told = page.querySelector("[role=alert]")?.textContent.replace(/^Not kept\.?:? */, "");
    notKept(event.detail, told || `the server answered ${event.detail.xhr.status}.`);
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (!event.detail.failed && !byItself(event)) document.querySelectorAll(".not-kept").forEach((each) => each.remove());
  });
})();

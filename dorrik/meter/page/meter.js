/* The bench's page: draws what the bench tells, and sends what is tapped. Nothing is worked out here. */
"use strict";

const socket = new WebSocket(`ws://${location.host}/bench`);
let last = null;
let refused = "";

socket.onmessage = (message) => {
  const told = JSON.parse(message.data);
  if (told.refused) refused = told.refused;
  else {
    last = told;
    draw();
    refused = "";
  }
};
socket.onclose = () => document.body.setAttribute("data-gone", "");

const act = (command) => socket.send(JSON.stringify(command));

/** An element with its attributes and what stands in it. */
function el(name, attributes = {}, ...children) {
  const made = document.createElement(name);
  for (const [key, value] of Object.entries(attributes)) {
    if (key.startsWith("on")) made[key] = value;
    else if (value !== false && value != null) made.setAttribute(key, value === true ? "" : value);
  }
  made.append(...children.filter((child) => child != null));
  return made;
}

const button = (words, command, pressed, more = {}) =>
  el("button", { type: "button", "aria-pressed": pressed == null ? null : String(!!pressed), onclick: () => act(command), ...more }, words);

const LETTER = { line: "L", neutral: "N", cpc: "E" };

/** A terminal: touched by a tap. */
function terminal(at, letter, label) {
  const which = last.bench.leads.findIndex((lead) => JSON.stringify(lead) === JSON.stringify(at));
  return el(
    "button",
    {
      type: "button",
      class: `terminal ${letter}`,
      "data-lead": which < 0 ? null : String(which + 1),
      "data-at": JSON.stringify(at),
      "aria-label": label,
      title: label,
      onclick: () => act({ do: "touch", at }),
    },
    letter,
  );
}

function instrument({ bench, link }) {
  const focus = link.focus;
  return [
    el("h1", {}, link.instrument.name, el("small", {}, link.instrument.serial)),
    el(
      "div",
      { class: "display", role: "status" },
      el("b", {}, bench.shown ? bench.shown.value : "– –"),
      el("span", {}, bench.shown ? bench.shown.unit : ""),
      el("p", {}, refused || bench.says),
    ),
    el(
      "div",
      { class: "link" },
      link.linked ? "Linked." : "To link: enter this code in Dorrik, under “Instrument”.",
      link.linked ? null : el("b", { class: "code" }, link.code.replace(/(...)/, "$1 ")),
      link.linked ? el("p", {}, focus ? `Waiting: ${focus.says}` : "No figure is in focus there.") : null,
    ),
    el(
      "div",
      { class: "functions", role: "group", "aria-label": "Function" },
      ...bench.functions.flatMap((one) =>
        one.key === "insulation"
          ? [250, 500].map((volts) =>
              button(
                `insulation ${volts} V`,
                { do: "function", to: one.key, volts },
                bench.function === one.key && bench.volts === volts,
              ),
            )
          : [button(one.label, { do: "function", to: one.key }, bench.function === one.key)],
      ),
    ),
    el(
      "div",
      { class: "row" },
      button("Measure again", { do: "measure" }, null, { disabled: bench.leads.length === 0 }),
      button("Next figure", { do: "next" }, null, { class: "next", disabled: !link.linked }),
    ),
    el(
      "div",
      { class: "row" },
      button("Null the leads", { do: "null" }),
      button("Null on a bad contact", { do: "null", bad: true }),
    ),
  ];
}

const dots = (circuit, end) =>
  ["line", "neutral", "cpc"].map((conductor) =>
    terminal(["end", circuit.name, conductor, end], LETTER[conductor], `${circuit.name}, ${conductor} at the board${circuit.ring ? `, end ${end}` : ""}`),
  );

function circuitOf(circuit) {
  const named = { circuit: circuit.name };
  return el(
    "section",
    { class: "circuit", "data-out": circuit.out, "aria-label": circuit.name },
    el(
      "header",
      {},
      el("h2", {}, circuit.name, el("small", {}, `${circuit.cable} mm² · ${circuit.device} · ${circuit.rcd ?? "no RCD"}`)),
      el(
        "div",
        { class: "acts" },
        circuit.out ? button("Put back", { do: "in", ...named }) : button("Take out of the board", { do: "out", ...named }),
        circuit.off || circuit.out ? null : button("Off", { do: "off", ...named }),
        ...["line-neutral", "line-cpc"].map((pair) =>
          circuit.out
            ? button(
                `Join ${pair === "line-cpc" ? "L–E" : "L–N"}`,
                circuit.joined === pair ? { do: "release", ...named } : { do: "join", pair, ...named },
                circuit.joined === pair,
              )
            : null,
        ),
      ),
    ),
    el(
      "div",
      { class: "ends" },
      terminal(["way", circuit.name], "L", `${circuit.name}, way of the board`),
      el("span", {}, circuit.ring ? "ends a" : "at the board"),
      ...dots(circuit, "a"),
      circuit.ring ? el("span", {}, "ends b") : null,
      ...(circuit.ring ? dots(circuit, "b") : []),
    ),
    el(
      "ol",
      { class: "points" },
      ...circuit.points.map((name, n) =>
        el(
          "li",
          {},
          el("span", { class: "name" }, name),
          el(
            "span",
            { class: "dots" },
            ...["line", "neutral", "cpc"].map((conductor) =>
              terminal(["point", circuit.name, conductor, n], LETTER[conductor], `${name}, ${conductor}`),
            ),
          ),
          button("re-plug", { do: "replug", ...named, point: n }, null, { class: "small", "aria-label": `Re-plug ${name}` }),
        ),
      ),
    ),
  );
}

/** Which of the homes one stands in. One that was described by a file is not among them. */
function homesOf(bench) {
  const known = bench.homes.some((one) => one.name === bench.name);
  return el(
    "label",
    { class: "homes" },
    "Home ",
    el(
      "select",
      { "aria-label": "Home", onchange: (event) => act({ do: "home", home: event.target.value }) },
      ...(known ? [] : [el("option", { selected: true, disabled: true }, bench.name)]),
      ...bench.homes.map((one) => el("option", { value: one.key, selected: one.name === bench.name }, one.name)),
    ),
  );
}

function home({ bench }) {
  const { surge } = bench;
  return [
    el(
      "section",
      { class: "board", "data-live": bench.main_on },
      el(
        "header",
        {},
        el("h2", {}, bench.name, el("small", {}, bench.main_on ? "live" : "isolated and locked")),
        homesOf(bench),
      ),
      el(
        "div",
        { class: "acts" },
        bench.main_on ? button("Isolate", { do: "isolate" }) : button("Put everything back and on", { do: "restore" }),
        button("Unplug everything", { do: "unplug" }, bench.unplugged),
        bench.earth_parted ? button("Earth back", { do: "rejoin earth" }) : button("Earth off its bar", { do: "part earth" }),
        surge ? button(surge.in ? "Surge device out" : "Surge device is out", { do: "surge out" }, !surge.in) : null,
      ),
      el(
        "div",
        { class: "ends" },
        el("span", {}, "origin"),
        ...["line", "neutral", "cpc"].map((c) => terminal(["origin", c], LETTER[c], `Origin, ${c}`)),
        el("span", {}, "earth bar"),
        terminal(["earth bar"], "E", "Earth bar"),
        ...bench.bonds.flatMap((service) => [
          el("span", {}, service),
          terminal(["clamp", service], "E", `Bond to ${service}, clamp`),
          terminal(["pipe", service], "P", `Bond to ${service}, pipe`),
        ]),
        surge ? el("span", {}, "surge") : null,
        surge ? terminal(["surge"], "S", "Surge device") : null,
      ),
      el(
        "div",
        { class: "ends" },
        ...bench.rcds.flatMap((rcd) => [
          el("span", {}, `${rcd.name} ${rcd.rated_ma} mA`),
          terminal(["rcd", rcd.name], "R", `${rcd.name}, clamp`),
          rcd.tripped ? button("Reset", { do: "reset", rcd: rcd.name }) : button("Test button", { do: "button", rcd: rcd.name }),
        ]),
      ),
    ),
    ...bench.circuits.map(circuitOf),
  ];
}

function draw() {
  const at = document.activeElement?.getAttribute("aria-label");
  document.title = `Bench of ${last.bench.name}`;
  document.getElementById("instrument").replaceChildren(...instrument(last));
  document.getElementById("home").replaceChildren(...home(last));
  if (at) [...document.querySelectorAll("button, select")].find((one) => one.getAttribute("aria-label") === at)?.focus();
}

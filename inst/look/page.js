"use strict";
// The page asks the server 25 times a second whether what it shows has changed, and asks for what has; hidden, once a second.
const $ = (id) => document.getElementById(id);
const mm = 96 / 25.4;
let shown = { path: null, which: 1, width: "" }, version = -1, detail = -1, figure = null, length = "full", missed = 0;
let listed = "", listing = 0, figures = [];

const query = () => "path=" + encodeURIComponent(shown.path || "") + "&which=" + shown.which + "&width=" + shown.width + "&listing=" + listing + "&dots=" + dots();
// Dots per inch that the screen has for the printed page as it is shown; where they are few, half as many again, for the spacing of letters. In
// steps of 24, so that a window that is widened is not drawn for at each pixel.
const dots = () => Math.ceil((figure && figure.width_mm ? scale() : mm) * 25.4 * Math.max(1.5, window.devicePixelRatio || 1) / 24 - 1e-6) * 24;
const ask = (what) => fetch(what + "?" + query(), { cache: "no-store" });
const make = (tag, text, name) => {
  const node = document.createElement(tag);
  if (text !== undefined && text !== null) node.textContent = text;
  if (name) node.className = name;
  return node;
};
const marks = { good: "\u2713", look: "\u25cb", bad: "\u2717", error: "!", "": "\u00b7" };
const saying = { good: "good", look: "something to look at", bad: "something bad", error: "not drawn", "": "not drawn yet" };

async function round() {
  try {
    const state = await (await ask("state")).json();
    missed = 0;
    $("gone").hidden = true;
    if (state.figures) { figures = state.figures; listing = state.listing; }
    list();
    $("busy").textContent = state.busy ? "drawing \u2026" : "";
    const there = figures.some((one) => one.path === shown.path);
    if (!there && figures.length) choose(figures[0].path);
    else if (state.version > 0 && (state.version !== version || state.detail !== detail)) await load(state);
  } catch (error) {
    missed += 1;
    if (missed > 30) $("gone").hidden = false;
  }
  setTimeout(round, document.hidden ? 1000 : missed ? 100 : 40);
}

function list() {
  const now = JSON.stringify([figures, shown.path]);
  if (now === listed) return;
  listed = now;
  const held = document.activeElement && document.activeElement.dataset ? document.activeElement.dataset.path : null;
  $("list").replaceChildren(...figures.map((one) => {
    const item = make("li"), button = make("button");
    button.append(make("span", marks[one.verdict] + " ", one.verdict), one.name);
    button.setAttribute("aria-label", one.name + ", " + saying[one.verdict]);
    button.dataset.path = one.path;
    if (one.path === shown.path) button.setAttribute("aria-current", "true");
    button.addEventListener("click", () => choose(one.path));
    item.append(button);
    return item;
  }));
  if (held) { const again = $("list").querySelector('[data-path="' + CSS.escape(held) + '"]'); if (again) again.focus(); }
}

function choose(path) {
  shown = { path, which: 1, width: "" };
  $("width").value = "";
  version = detail = -1;
}

async function load(state) {
  // The picture comes while the rest is asked for.
  if (state.version !== version && state.drawn) $("picture").src = "picture?" + query() + "&v=" + state.version;
  const reply = await ask("figure");
  if (!reply.ok) return;
  figure = await reply.json();
  version = state.version;
  detail = state.detail;
  document.title = name() + " \u2013 Nelvat";
  $("name").textContent = name();
  error();
  drawings();
  size();
  if (figure.ok && figure.proof) about();
  $("verdict").textContent = !figure.ok ? "Not drawn: " + (figure.message || "").split("\n")[0]
    : figure.message ? figure.message : figure.counts ? "Proof: " + figure.counts.good + " good, " + figure.counts.look + " to look at, " + figure.counts.bad + " bad" : "";
}

function name() { const file = (shown.path || "").split(/[\\/]/).pop(); return file.replace(/[.]ya?ml$/, "") || "Figure"; }

function error() {
  $("error").hidden = figure.ok;
  if (figure.ok) return;
  $("message").textContent = figure.message;
  const lines = (figure.about || []).map((one) => {
    const node = make("span", String(one.n).padStart(4) + "  " + one.text + "\n");
    if (one.n === figure.line) { node.className = "here"; node.setAttribute("aria-current", "true"); }
    return node;
  });
  $("lines").replaceChildren(...lines);
  $("lines").hidden = !lines.length;
}

function drawings() {
  const names = figure.names || [""];
  $("which").parentElement.hidden = names.length < 2;
  $("which").replaceChildren(...names.map((one, i) => { const option = make("option", one || String(i + 1)); option.value = i + 1; return option; }));
  $("which").value = shown.which;
}

// Of the printed page in pixels of the screen.
function scale() {
  const zoom = $("zoom").value;
  if (zoom !== "fit") return mm * Number(zoom);
  return Math.max(1, ($("sheet").clientWidth - 4) / figure.width_mm);
}

function size() {
  if (!figure || !figure.width_mm) return;
  const k = scale();
  $("picture").style.width = figure.width_mm * k + "px";
  $("picture").style.height = figure.height_mm * k + "px";
  $("picture").alt = figure.alt || name();
  $("picture").style.filter = $("eyes").value ? "url(#see-" + $("eyes").value + ")" : "";
  hits(k);
  spots(k);
}

function place(node, x, y, w, h, k) {
  Object.assign(node.style, { left: x * k + "px", top: y * k + "px", width: Math.max(w * k, 4) + "px", height: Math.max(h * k, 4) + "px" });
}

function hits(k) {
  const all = (figure.hits || []).map((hit, i) => {
    const node = make("button", null, hit.kind);
    node.type = "button";
    node.tabIndex = hit.kind === "mark" ? -1 : 0;
    node.setAttribute("aria-label", [hit.title].concat(hit.lines).join(". "));
    node.dataset.hit = i;
    place(node, hit.x, hit.y, hit.w, hit.h, k);
    return node;
  });
  $("hits").replaceChildren(...all);
}

// Arrow keys go through the marks of the page, as Tab goes through its parts.
function step(event) {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (!by) return;
  const all = Array.from($("hits").children), at = all.indexOf(document.activeElement);
  if (at < 0) return;
  event.preventDefault();
  all[(at + by + all.length) % all.length].focus();
}

function tell(hit) {
  const box = $("this");
  const items = hit.lines.map((line) => { const item = make("li"); item.append(...coded(line)); return item; });
  const lines = make("ul");
  lines.append(...items);
  box.replaceChildren(make("h2", hit.title), lines);
}

// Text with what stands in backticks as code.
function coded(text) {
  return String(text).split("`").map((part, i) => i % 2 ? make("code", part) : document.createTextNode(part));
}

function spots(k) {
  const nodes = [];
  (figure.proof || []).forEach((one, i) => (one.boxes || []).forEach((box) => {
    const node = make("button", null, one.verdict);
    node.type = "button";
    node.setAttribute("aria-label", "Finding " + (i + 1) + ": " + one.rule + ", " + one.measured);
    place(node, box.x0 - 0.5, box.y0 - 0.5, box.x1 - box.x0 + 1, box.y1 - box.y0 + 1, k);
    const say = () => tell({ title: one.rule + " (" + one.verdict + ")", lines: ["Measured: " + one.measured, "Limit: " + one.limit, one.where, one.mend].filter(Boolean) });
    node.addEventListener("focus", say);
    node.addEventListener("pointerenter", say);
    nodes.push(node);
  }));
  $("spots").replaceChildren(...nodes);
  $("spots").hidden = !$("marks").checked;
}

function about() {
  $("proof").replaceChildren(...figure.proof.map((one) => {
    const item = make("li");
    item.append(make("strong", marks[one.verdict] + " " + one.rule, one.verdict), ": " + one.measured + " (" + one.limit + "). ", make("br"), one.where, make("br"), ...coded(one.mend || ""));
    if (one.copy) {
      const button = make("button", "Copy");
      button.type = "button";
      button.setAttribute("aria-label", "Copy " + one.copy);
      button.addEventListener("click", () => copy(one.copy, button));
      item.append(" ", button);
    }
    return item;
  }));
  if (!figure.proof.length) $("proof").replaceChildren(make("li", "Nothing falls short."));
  $("good").replaceChildren(...(figure.good || []).map((line) => make("li", line)));
  legend();
  $("alt").textContent = figure.alt;
  $("methods").textContent = figure.methods;
  $("source").replaceChildren(...figure.source.map((table) => {
    const fold = make("details"), wide = make("div", null, "wide"), grid = make("table");
    fold.append(make("summary", table.name + " (" + table.n + (table.n === 1 ? " row)" : " rows)")));
    const head = make("tr");
    head.append(...table.columns.map((one) => { const cell = make("th", one); cell.scope = "col"; return cell; }));
    grid.append(head, ...table.rows.map((row) => { const line = make("tr"); line.append(...row.map((one) => make("td", one))); return line; }));
    wide.tabIndex = 0;
    wide.append(grid);
    fold.append(wide);
    if (table.n > table.rows.length) fold.append(make("p", "The first " + table.rows.length + " rows.", "hint"));
    return fold;
  }));
}

// The server writes these three itself, with names of columns and levels as text.
function legend() {
  $("legend").innerHTML = figure.legend[length];
  document.querySelectorAll('[role="tab"]').forEach((tab) => tab.setAttribute("aria-selected", tab.dataset.length === length));
}

async function copy(text, button) {
  try {
    await navigator.clipboard.writeText(text);
  } catch (error) {
    const area = make("textarea", text);
    document.body.append(area);
    area.select();
    document.execCommand("copy");
    area.remove();
    button.focus();
  }
  button.textContent = "Copied";
  button.dataset.copied = text;
  setTimeout(() => { button.textContent = "Copy"; }, 1500);
}

const pointed = (event) => {
  const node = event.target.closest("[data-hit]");
  if (!node || !figure) return;
  document.querySelectorAll("#hits .on").forEach((one) => one.classList.remove("on"));
  node.classList.add("on");
  tell(figure.hits[Number(node.dataset.hit)]);
};
$("hits").addEventListener("pointerover", pointed);
$("hits").addEventListener("focusin", pointed);
$("hits").addEventListener("keydown", step);
$("zoom").addEventListener("change", size);
$("eyes").addEventListener("change", size);
$("marks").addEventListener("change", size);
$("width").addEventListener("change", () => { shown.width = $("width").value; version = detail = -1; });
$("which").addEventListener("change", () => { shown.which = Number($("which").value); version = detail = -1; });
$("ways").addEventListener("submit", (event) => event.preventDefault());
document.querySelectorAll('[role="tab"]').forEach((tab) => tab.addEventListener("click", () => { length = tab.dataset.length; if (figure && figure.legend) legend(); }));
window.addEventListener("resize", () => { if ($("zoom").value === "fit") size(); });
round();

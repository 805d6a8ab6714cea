// Writes a large dialogue to the given file: 500 turns with 60 arms in 20 sections, the same every time. Asks, tells,
// forks with conditions, formulas, go-tos and visits stand in it in about the shares of a real one.
import { writeFileSync } from "node:fs";

const TURNS = 500;
const ARMS = 60;
const SECTIONS = 20;

const text = (words) => ({ en: words });
const subjects = ["pallets", "parcels", "frozen goods", "chilled goods", "the dock", "the start", "the budget", "the team", "the contract", "the depot"];
const fields = [];
for (let n = 0; n < 40; n += 1) {
  const field = { id: `fld_${n}`, key: `field_${n}`, label: `Field ${n}` };
  if (n % 4 === 0) fields.push({ ...field, type: "whole_number", unit: "pallets" });
  else if (n % 4 === 1) fields.push({ ...field, type: "yes_no" });
  else if (n % 4 === 2) fields.push({ ...field, type: "text" });
  else
    fields.push({
      ...field,
      type: "choice",
      options: ["a", "b", "c"].map((key) => ({ key, label: text(`Option ${key.toUpperCase()} of ${n}`) })),
    });
}
let turns = 0;
let arms = 0;
const id = (prefix) => `${prefix}_${turns}_${arms}`;
const fieldOf = (kind) => fields[(turns * 7) % 10 === 0 ? kind : kind + 4 * ((turns * 3) % 9)];

function tell() {
  turns += 1;
  const about = subjects[turns % subjects.length];
  return {
    kind: "tell",
    id: id("t"),
    say: [{ line: { text: text(`Thanks, {field_2|there}. A few words about ${about}, number ${turns}.`) } }],
  };
}

function ask(depth) {
  turns += 1;
  const own = id("t");
  const choice = turns % 3 === 0;
  const field = choice ? fieldOf(3) : fieldOf(0);
  const out = {
    kind: "ask",
    id: own,
    say: { text: text(`Question ${turns}: what about ${subjects[turns % subjects.length]}?`) },
    field: field.key,
    tries: 3,
    way_out: "go_on",
  };
  if (choice && arms + 2 <= ARMS && depth < 4 && turns % 2 === 0) {
    out.arms = ["a", "b"].map((key) => {
      arms += 1;
      const arm = { id: id("a"), when: { options: [key] }, turns: [], then: "rejoin" };
      arm.turns = [tell(), ask(depth + 1)];
      return arm;
    });
  }
  return out;
}

function fork(target) {
  if (arms + 2 > ARMS) return tell();
  turns += 1;
  const out = { kind: "fork", id: id("t"), arms: [] };
  arms += 1;
  out.arms.push({
    id: id("a"),
    when: { holds: { all: [{ compare: { what: "field_0", is: "at_least", to: String(turns) } }, { compare: { what: "field_3", is: "is", to: "a" } }] } },
    turns: [],
    then: { go_to: target },
  });
  arms += 1;
  out.arms.push({ id: id("a"), when: "otherwise", turns: [tell()], then: "rejoin" });
  return out;
}

const sections = [];
for (let n = 0; n < SECTIONS; n += 1) {
  const list = [];
  const until = Math.round((TURNS * (n + 1)) / SECTIONS) - (n === SECTIONS - 1 ? 1 : 0);
  while (turns < until) {
    const left = until - turns;
    if (n < SECTIONS - 1 && list.length % 9 === 4 && left > 3) list.push(fork(`s_${n + 1}`));
    else if (list.length % 3 === 0 || left < 6) list.push(tell());
    else list.push(ask(0));
  }
  sections.push({ id: `s_${n}`, title: `Section ${n + 1}`, turns: list, then: "carry_on" });
}
turns += 1;
sections.at(-1).turns.push({ kind: "close", id: id("t"), outcome: "lead", say: { text: text("Thank you.") } });

const dialogue = {
  format: "lumbo.dialogue/1",
  id: "large",
  title: "Large outline",
  language: "en",
  opening: { say: text("Hello."), button: text("Begin") },
  fields,
  outcomes: [{ id: "lead", label: "A lead", class: "lead" }],
  sections,
  routing: {},
};
const file = process.argv[2];
if (!file) throw new Error("name the file to write");
writeFileSync(file, `${JSON.stringify(dialogue, null, 1)}\n`);
console.log(`${turns} turns, ${arms} arms, ${sections.length} sections`);

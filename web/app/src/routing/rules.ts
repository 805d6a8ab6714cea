/** Routing rules as they are worked on. */
import type { Schemas } from "../../../api";
import type { Dialogue } from "../outline/names";

export type Routing = Schemas["Routing"];
export type Rule = Schemas["RoutingRule"];

export const rulesOf = (routing: Routing | null | undefined): Rule[] => routing?.rules ?? [];

export const withRule = (routing: Routing, rule: Rule): Routing => ({
  ...routing,
  rules: rulesOf(routing).map((known) => (known.id === rule.id ? rule : known)),
});

export const withoutRule = (routing: Routing, id: string): Routing => ({
  ...routing,
  rules: rulesOf(routing).filter((known) => known.id !== id),
});

/** Puts a rule behind the picked one, at the end where none is picked. */
export function addedRule(routing: Routing, rule: Rule, behind: string | null): Routing {
  const rules = [...rulesOf(routing)];
  const at = rules.findIndex((known) => known.id === behind);
  rules.splice(at < 0 ? rules.length : at + 1, 0, rule);
  return { ...routing, rules };
}

export function movedRule(routing: Routing, id: string, by: 1 | -1): Routing {
  const rules = [...rulesOf(routing)];
  const from = rules.findIndex((known) => known.id === id);
  const [one, other] = [rules[from], rules[from + by]];
  if (!one || !other) return routing;
  rules[from] = other;
  rules[from + by] = one;
  return { ...routing, rules };
}

/** An id that no rule has. */
export function freshRule(dialogue: Dialogue): string {
  const taken = new Set(rulesOf(dialogue.routing).map((rule) => rule.id));
  for (;;) {
    const id = `rt_${(crypto.getRandomValues(new Uint32Array(1))[0] ?? 0).toString(36).padStart(7, "0").slice(0, 7)}`;
    if (!taken.has(id)) return id;
  }
}

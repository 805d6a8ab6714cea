/** Which fields are columns: each person's choice in this browser, by dialogue. */
import type { Column } from "./words";

/** How many fields are columns until somebody chooses. */
export const FIRST = 6;

const name = (dialogue: string) => `lumbo.answers.columns.${dialogue}`;

/** The ids that were chosen; nothing where nobody chose, or the browser keeps nothing. */
export function kept(dialogue: string): string[] | null {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(name(dialogue)) ?? "null");
    return Array.isArray(found) ? found.filter((id) => typeof id === "string") : null;
  } catch {
    return null;
  }
}

export function keep(dialogue: string, ids: string[]): void {
  try {
    localStorage.setItem(name(dialogue), JSON.stringify(ids));
  } catch {
    // A browser that keeps nothing shows the first ones next time.
  }
}

/** The columns to show: those that were chosen, in the order of the dialogue; else the first few. */
export function chosen(all: Column[], ids: string[] | null): Column[] {
  return ids ? all.filter((column) => ids.includes(column.id)) : all.slice(0, FIRST);
}

/** The choice with one column more or one fewer. */
export function toggled(all: Column[], ids: string[] | null, id: string): string[] {
  const now = chosen(all, ids).map((column) => column.id);
  return now.includes(id) ? now.filter((one) => one !== id) : [...now, id];
}

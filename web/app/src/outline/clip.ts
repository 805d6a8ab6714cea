/** Copied rows: as data for Lumbo, and as an indented text for everything else. */
import type { Schemas } from "../../../api";
import type { DraftView } from "../dialogue/useDraft";
import type { Turn } from "./names";
import { armWords, armsOf, index, summary } from "./names";

type Clip = Schemas["Clip"];

/** Name of the data among what the clipboard holds. */
export const CLIP_TYPE = "application/x-lumbo-clip";

/** Copies the picked rows; a row inside another picked one goes with it. */
export function copyRows(draft: DraftView, keys: string[]): Clip | null {
  const { dialogue, rows } = draft;
  const { turns, arms } = index(dialogue);
  const picked = new Set(keys);
  const inside = (key: string): boolean => {
    const row = rows.find((known) => `${known.kind}:${known.id}` === key);
    if (!row) return true;
    if (row.kind !== "section" && picked.has(`section:${row.section}`)) return true;
    if (row.turn && (picked.has(`turn:${row.turn}`) || inside(`turn:${row.turn}`))) return true;
    return row.arm !== null && row.arm !== undefined && (picked.has(`arm:${row.arm}`) || inside(`arm:${row.arm}`));
  };
  const clip: Clip = {
    format: "lumbo.clip/1",
    turns: [],
    arms: [],
    sections: [],
    fields: dialogue.fields ?? [],
    outcomes: dialogue.outcomes,
    tables: dialogue.tables ?? [],
    media: dialogue.media ?? {},
    titles: Object.fromEntries(dialogue.sections.map((section) => [section.id, section.title])),
  };
  for (const row of rows) {
    const key = `${row.kind}:${row.id}`;
    if (!picked.has(key) || inside(key)) continue;
    const turn = row.kind === "turn" ? turns.get(row.id) : undefined;
    const arm = row.kind === "arm" ? arms.get(row.id)?.arm : undefined;
    const section = row.kind === "section" ? dialogue.sections.find((known) => known.id === row.id) : undefined;
    if (turn) clip.turns?.push(turn);
    if (arm) clip.arms?.push(arm);
    if (section) clip.sections?.push(section);
  }
  return (clip.turns?.length ?? 0) + (clip.arms?.length ?? 0) + (clip.sections?.length ?? 0) > 0 ? clip : null;
}

/** A clip as an indented text, to paste into a mail. */
export function clipText(draft: DraftView, clip: Clip): string {
  const { dialogue } = draft;
  const lines: string[] = [];
  const say = (list: Turn[], depth: number) => {
    for (const turn of list) {
      lines.push(`${"  ".repeat(depth)}${summary(dialogue, turn)}`);
      for (const arm of armsOf(turn)) {
        lines.push(`${"  ".repeat(depth)}- ${arm.label ?? armWords(dialogue, turn, arm, draft.words)}`);
        say(arm.turns ?? [], depth + 1);
      }
    }
  };
  say(clip.turns ?? [], 0);
  for (const arm of clip.arms ?? []) say(arm.turns ?? [], 0);
  for (const section of clip.sections ?? []) {
    lines.push(`# ${section.title}`);
    say(section.turns ?? [], 0);
  }
  return lines.join("\n");
}

/** Reads what the clipboard holds: copied rows, or a written outline. */
export function readClip(data: DataTransfer): { clip: Clip } | { text: string } | null {
  const json = data.getData(CLIP_TYPE);
  if (json) {
    try {
      const clip = JSON.parse(json) as Clip;
      if (clip.format === "lumbo.clip/1") return { clip };
    } catch {
      // Not ours after all; its text may still be of use.
    }
  }
  const text = data.getData("text/plain");
  return text.trim() ? { text } : null;
}

import { describe, expect, test } from "vitest";

import type { DraftView } from "../dialogue/useDraft";
import { CLIP_TYPE, clipText, copyRows, readClip } from "./clip";

const tell = (id: string, words: string) => ({ kind: "tell" as const, id, say: [{ line: { text: { en: words } } }] });
const draft = {
  words: {},
  dialogue: {
    language: "en",
    fields: [],
    outcomes: [],
    sections: [
      {
        id: "s",
        title: "Start",
        then: "carry_on",
        turns: [
          tell("t1", "Hello"),
          {
            kind: "fork",
            id: "t2",
            arms: [{ id: "a1", when: "otherwise", turns: [tell("t3", "Inside")], then: "rejoin" }],
          },
        ],
      },
    ],
  },
  rows: [
    { kind: "section", id: "s", section: "s", depth: 0, index: 0 },
    { kind: "turn", id: "t1", section: "s", depth: 0, index: 0 },
    { kind: "turn", id: "t2", section: "s", depth: 0, index: 1 },
    { kind: "arm", id: "a1", section: "s", turn: "t2", depth: 0, index: 0 },
    { kind: "turn", id: "t3", section: "s", arm: "a1", depth: 1, index: 0 },
    { kind: "then", id: "s", section: "s", depth: 0, index: 0 },
  ],
} as unknown as DraftView;

const transfer = (data: Record<string, string>) => ({ getData: (type: string) => data[type] ?? "" }) as DataTransfer;

describe("copied rows", () => {
  test("keep the order of the outline and leave out what goes with another row", () => {
    const clip = copyRows(draft, ["turn:t3", "turn:t2", "turn:t1", "arm:a1"]);
    expect(clip?.turns?.map((turn) => turn.id)).toEqual(["t1", "t2"]);
    expect(clip?.arms).toEqual([]);
    expect(clip?.titles).toEqual({ s: "Start" });
  });

  test("are nothing where nothing was picked", () => {
    expect(copyRows(draft, [])).toBeNull();
    expect(copyRows(draft, ["turn:gone"])).toBeNull();
  });

  test("read as an indented text elsewhere", () => {
    const clip = copyRows(draft, ["section:s"]);
    expect(clip && clipText(draft, clip)).toBe("# Start\nTell “Hello”\nFork\n- otherwise\n  Tell “Inside”");
  });

  test("come back from the clipboard; any other text is a written outline", () => {
    const clip = copyRows(draft, ["turn:t1"]);
    expect(readClip(transfer({ [CLIP_TYPE]: JSON.stringify(clip) }))).toEqual({ clip });
    expect(readClip(transfer({ "text/plain": "How many?" }))).toEqual({ text: "How many?" });
    expect(readClip(transfer({ [CLIP_TYPE]: "{broken", "text/plain": "" }))).toBeNull();
  });
});

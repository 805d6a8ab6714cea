import { describe, expect, it } from "vitest";

import { FIRST, chosen, toggled } from "./columns";
import type { Column } from "./words";

const all: Column[] = Array.from({ length: 9 }, (_, place) => ({
  id: `f${place}`,
  key: `key_${place}`,
  label: `Field ${place}`,
  type: "text",
}));

const ids = (columns: Column[]) => columns.map((column) => column.id);

describe("columns", () => {
  it("are the first few until somebody chooses", () => {
    expect(chosen(all, null)).toHaveLength(FIRST);
  });

  it("stand in the order of the dialogue, whatever the order of choosing", () => {
    expect(ids(chosen(all, ["f7", "f2", "gone"]))).toEqual(["f2", "f7"]);
    expect(chosen(all, [])).toEqual([]);
  });

  it("are chosen from what is shown", () => {
    expect(toggled(all, null, "f8")).toEqual(["f0", "f1", "f2", "f3", "f4", "f5", "f8"]);
    expect(toggled(all, null, "f0")).toEqual(["f1", "f2", "f3", "f4", "f5"]);
    expect(toggled(all, ["f3"], "f3")).toEqual([]);
  });
});

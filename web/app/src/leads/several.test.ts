import { expect, test } from "vitest";

import { RequestFailed } from "../../../api";
import type { Progress } from "./several";
import { eachOf } from "./several";

const leads = ["a", "b", "c"].map((id) => ({ id, name: `Lead ${id}` }));

test("each is done in turn, and what fails is named and holds up no other", async () => {
  const told: Progress[] = [];
  const seen: string[] = [];
  const done = await eachOf(
    leads,
    async (id) => {
      seen.push(id);
      if (id === "b")
        throw new RequestFailed({
          type: "urn:lumbo:problem:conflict",
          title: "conflict",
          status: 409,
          detail: "Somebody changed this lead meanwhile.",
        });
    },
    (progress) => told.push(progress),
    () => false,
  );
  expect(seen).toEqual(["a", "b", "c"]);
  expect(done).toEqual(["a", "c"]);
  expect(told.map((one) => [one.done, one.ended])).toEqual([
    [1, false],
    [1, false],
    [2, false],
    [2, true],
  ]);
  expect(told.at(-1)?.failed).toEqual(["Lead b: Somebody changed this lead meanwhile."]);
});

test("it ends where it is stopped, and what is broken is no failure of a lead", async () => {
  let stop = false;
  const done = await eachOf(
    leads,
    async () => void (stop = true),
    () => {},
    () => stop,
  );
  expect(done).toEqual(["a"]);
  await expect(
    eachOf(
      leads,
      () => Promise.reject(new TypeError("x")),
      () => {},
      () => false,
    ),
  ).rejects.toThrow("x");
});

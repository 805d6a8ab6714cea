/**
 * A large outline in the browser: how long it takes to open, from a key to the screen, from an edit to its new rails and
 * checks, and how even scrolling is. Run by bench/outline/run; prints figures and fails where an aim is missed.
 */
import { readFileSync } from "node:fs";

import { expect, signIn, test } from "../fixtures";

const RUNS = 8;
const AIM = { open: 1_000, key: 50, edit: 250, answer: 60, bytes: 20_000 };

const middle = (list: number[]): number =>
  [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
const worst = (list: number[]): number => Math.max(...list);
const report = (what: string, list: number[]) =>
  console.log(
    `${what}: median ${middle(list).toFixed(0)} ms, worst of ${list.length} ${worst(list).toFixed(0)} ms`,
  );

test("a large outline opens, takes keys and shows edits in time", async ({
  page,
}) => {
  test.setTimeout(180_000);
  const file = process.env.LUMBO_LARGE_OUTLINE;
  if (!file)
    throw new Error(
      "run bench/outline/run, which makes the outline and names it",
    );
  await signIn(page, "edda");
  const id = await page.evaluate(
    async (text) => {
      const made = await fetch("/api/dialogues", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({
          title: "Large outline",
          file: JSON.parse(text),
        }),
      });
      const id = ((await made.json()) as { id: string }).id;
      // Released once, so that every edit is compared with the release as well.
      await fetch(`/api/dialogues/${id}/releases`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ revision: 1, note: "first" }),
      });
      return id;
    },
    readFileSync(file, "utf8"),
  );

  const opens: number[] = [];
  for (let at = 0; at < RUNS; at += 1) {
    const begun = Date.now();
    await page.goto(`/dialogues/${id}`);
    await page.locator("[data-row^='turn:']").first().waitFor();
    opens.push(Date.now() - begun);
  }
  report("open, from the address to the first rows", opens);

  // From the key until the frame after the one that shows it.
  await page.locator("[data-row^='turn:'] [data-open]").nth(1).click();
  await expect(
    page.getByRole("textbox", { name: "Asks", exact: true }),
  ).toBeFocused();
  await page.evaluate(() => {
    const taken: number[] = [];
    Object.assign(window, { taken });
    document.addEventListener(
      "keydown",
      (event) => {
        const begun = event.timeStamp;
        requestAnimationFrame(() =>
          setTimeout(() => taken.push(performance.now() - begun), 0),
        );
      },
      true,
    );
  });
  await page.keyboard.type("How many of these do you have in all, roughly? ", {
    delay: 90,
  });
  const keys = await page.evaluate(
    () => (window as unknown as { taken: number[] }).taken,
  );
  report("key, from the key to the painted frame", keys);
  await page.keyboard.press("Escape");
  await page.waitForTimeout(1_000);

  const edits: number[] = [];
  for (let at = 0; at < RUNS; at += 1) {
    const before = await page.locator("footer b").first().textContent();
    const taken = await page.evaluate(
      (known) =>
        new Promise<number>((resolve) => {
          const begun = performance.now();
          const look = () => {
            if (document.querySelector("footer b")?.textContent === known)
              requestAnimationFrame(look);
            else setTimeout(() => resolve(performance.now() - begun), 0);
          };
          document.activeElement?.dispatchEvent(
            new KeyboardEvent("keydown", {
              key: "d",
              ctrlKey: true,
              bubbles: true,
            }),
          );
          look();
        }),
      before,
    );
    edits.push(taken);
    await page.waitForTimeout(500);
  }
  report("edit, from the key to new rows and rails", edits);

  // The same at the server alone: the answer to an edit, and what is computed of it afterwards.
  const answers = await page.evaluate(
    async ({ id, runs }) => {
      const out: { answer: number; bytes: number; analysis: number }[] = [];
      const at = `/api/dialogues/${id}/draft`;
      const draft = (await (await fetch(at)).json()) as {
        revision: number;
        dialogue: {
          sections: {
            turns: { kind: string; id: string; say?: { text: object } }[];
          }[];
        };
      };
      const turn = draft.dialogue.sections[9]?.turns.find(
        (one) => one.kind === "ask",
      );
      let base = draft.revision;
      for (let run = 0; run < runs; run += 1) {
        const edited = {
          ...turn,
          say: {
            text: { en: `How many do you have, in round numbers? ${run}` },
          },
        };
        const body = JSON.stringify({
          base,
          edits: [{ op: "change_turn", turn: edited }],
        });
        const begun = performance.now();
        const answer = await fetch(at, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body,
        });
        const text = await answer.text();
        const answered = performance.now();
        if (!answer.ok) throw new Error(text);
        base = (JSON.parse(text) as { revision: number }).revision;
        await (await fetch(`${at}/analysis`)).text();
        out.push({
          answer: answered - begun,
          bytes: new Blob([text]).size,
          analysis: performance.now() - answered,
        });
      }
      return out;
    },
    { id, runs: RUNS },
  );
  report(
    "answer to an edit at the server",
    answers.map(({ answer }) => answer),
  );
  report(
    "what is computed of it, after the answer",
    answers.map(({ analysis }) => analysis),
  );
  console.log(
    `bytes of an answer: median ${middle(answers.map(({ bytes }) => bytes))}`,
  );

  const frames = await page.getByRole("main", { name: "Outline" }).evaluate(
    (main) =>
      new Promise<number[]>((resolve) => {
        const gaps: number[] = [];
        let last = performance.now();
        const go = () => {
          const now = performance.now();
          gaps.push(now - last);
          last = now;
          main.scrollTop += 120;
          if (gaps.length < 180) requestAnimationFrame(go);
          else resolve(gaps.slice(5));
        };
        requestAnimationFrame(go);
      }),
  );
  const sorted = [...frames].sort((a, b) => a - b);
  console.log(
    `scroll, 120 px a frame: median ${middle(frames).toFixed(0)} ms a frame, 95th of 100 ${(sorted[Math.floor(sorted.length * 0.95)] ?? 0).toFixed(0)} ms, worst ${worst(frames).toFixed(0)} ms`,
  );

  expect(middle(opens)).toBeLessThan(AIM.open);
  expect(middle(keys)).toBeLessThan(AIM.key);
  expect(middle(edits)).toBeLessThan(AIM.edit);
  expect(middle(answers.map(({ answer }) => answer))).toBeLessThan(AIM.answer);
  expect(middle(answers.map(({ bytes }) => bytes))).toBeLessThan(AIM.bytes);
});

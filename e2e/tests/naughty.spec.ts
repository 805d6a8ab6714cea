/**
 * Strings that break software, through the whole page: the Big List of Naughty Strings (github.com/minimaxir/big-list-of-naughty-strings,
 * MIT, as npm `big-list-of-naughty-strings` has it), each typed as a reply, sent, read by the server, kept and shown again.
 */
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

import { expect, putOnAir, test } from "../fixtures";

const strings = JSON.parse(readFileSync(fileURLToPath(new URL("../../crates/core/reading/tests/data/naughty_strings.json", import.meta.url)), "utf8")) as string[];

/** Questions in one conversation. */
const EACH = 40;

/** A dialogue of many questions that take any text and are asked once; the last line says the first answer back. */
const manyQuestions = (() => {
  const turns = Array.from({ length: EACH }, (_, place) => ({
    kind: "ask",
    id: `t_${place}`,
    say: { text: { en: `Text ${place + 1}?` } },
    field: `text_${place}`,
    tries: 1,
  }));
  const fields = turns.map(({ field }) => ({ id: field, key: field, label: field, type: "long_text" }));
  return {
    format: "lumbo.dialogue/1",
    id: "naughty",
    title: "Naughty strings",
    language: "en",
    opening: { say: { en: "Anything goes." }, button: { en: "Begin" } },
    fields,
    outcomes: [{ id: "done", label: "Done", class: "other" }],
    sections: [{ id: "all", title: "All", turns, then: { close: { outcome: "done", say: { en: "You began with {text_0|nothing}." } } } }],
  };
})();

test("every naughty string is taken as words and shown as words", async ({ page }) => {
  test.setTimeout(240_000);
  const slug = await putOnAir(page, manyQuestions, "Naughty strings");
  const alerts: string[] = [];
  page.on("dialog", (dialog) => {
    alerts.push(dialog.message());
    void dialog.dismiss();
  });
  // What a one-line box keeps: no line breaks; and nothing is sent where there are only spaces.
  const typed = strings.map((text) => text.replaceAll(/[\r\n]/g, "")).filter((text) => text.trim() !== "");
  expect(typed.length).toBeGreaterThan(450);
  const lost: string[] = [];
  for (let from = 0; from < typed.length; from += EACH) {
    await page.goto(`/p/${slug}`);
    await page.evaluate(() => localStorage.clear());
    await page.reload();
    await page.getByRole("button", { name: "Begin" }).click();
    for (const [place, text] of typed.slice(from, from + EACH).entries()) {
      await expect(page.getByText(`Text ${place + 1}?`, { exact: true })).toBeVisible();
      const box = page.getByLabel("Type your answer");
      await box.fill(text);
      const sent = await box.inputValue();
      await box.press("Enter");
      const next = place + 1 < Math.min(EACH, typed.length - from) ? `Text ${place + 2}?` : /You began with|Text \d+\?/;
      await expect(page.getByText(next).last()).toBeVisible();
      const shown = await page.locator(".lines p.you").last().textContent();
      if (!shown?.includes(sent.trim()) && shown !== sent) lost.push(`${JSON.stringify(sent)} shown as ${JSON.stringify(shown)}`);
    }
    // No markup came of any of them.
    expect(await page.locator("main script, main img, main iframe, main svg, main marquee").count()).toBe(0);
  }
  expect(lost).toEqual([]);
  expect(alerts).toEqual([]);
});

import { afterEach, beforeEach, expect, test, vi } from "vitest";

import { onPlacement } from "./placed";
import { keeping } from "./talk";

const view = {
  id: "p1",
  slug: "storage",
  opening: { say: "Hello", button: "Start", language: "en", words: {}, pace: "none" },
  look: { name: "Winterlode", picture: null, colours: {}, daylight: "visitor", keeps: "after_consent" },
};

type Call = { path: string; body: Record<string, unknown> | undefined };

let calls: Call[];
let hear: ((event: unknown) => void)[];
let told: [unknown, string][];
let kept: Map<string, string>;
const site = "https://site.example";

/** A message as the browser brings it. */
const says = (data: unknown, origin = site, source: unknown = undefined) => {
  for (const one of hear) one({ data, origin, source: source ?? window.parent });
};

beforeEach(() => {
  calls = [];
  hear = [];
  told = [];
  kept = new Map();
  keeping.allowed = true;
  const parent = { postMessage: (message: unknown, to: string) => void told.push([message, to]) };
  vi.stubGlobal("window", {
    parent,
    innerWidth: 1200,
    addEventListener: (_: string, run: (event: unknown) => void) => void hear.push(run),
  });
  vi.stubGlobal("location", { hash: `#${site}`, search: "", pathname: "/f/p1", origin: "https://lumbo.example" });
  vi.stubGlobal("history", { state: null, replaceState: () => undefined });
  vi.stubGlobal("navigator", { language: "en-GB" });
  vi.stubGlobal("document", { referrer: "", getElementById: () => null });
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
  vi.stubGlobal("fetch", async (path: string, options: RequestInit = {}) => {
    const body = typeof options.body === "string" ? (JSON.parse(options.body) as Record<string, unknown>) : undefined;
    calls.push({ path, body });
    const json = path.endsWith("/conversations")
      ? { token: "t", view: { sequence: 1, lines: [], ended: false } }
      : view;
    return { ok: true, status: 200, json: async () => json };
  });
});

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

test("a frame asks the page around it, and a conversation is told where it comes from", async () => {
  const side = onPlacement("p1", true);
  expect(told).toEqual([[{ lumbo: 1, did: "ready" }, site]]);
  const opening = side.opening();
  says({
    lumbo: 1,
    page: "/prices",
    from: "",
    first: { page: "/", from: "https://search.example/" },
    back: true,
    floats: true,
    keep: true,
    carried: { utm_campaign: "autumn-26", gclid: "c1", empty: "" },
    visitor: "signed",
  });
  expect((await opening).say).toBe("Hello");
  expect((await opening).placed?.close).toBeDefined();
  await side.start();
  const started = calls.find((call) => call.path === "/api/p/storage/conversations")?.body;
  expect(started).toMatchObject({ placement: "p1", visitor: "signed" });
  expect(started?.context).toMatchObject({
    page: "/prices",
    referrer: null,
    first_page: "/",
    first_referrer: "https://search.example/",
    campaign: "autumn-26",
    carried: { gclid: "c1" },
    returning: "yes",
  });
  expect(kept.get("lumbo:storage")).toBe("t");
});

test("what does not come from the page around it is not heard", async () => {
  vi.useFakeTimers();
  const side = onPlacement("p1", true);
  const opening = side.opening();
  says({ lumbo: 1, page: "/forged", keep: true }, "https://evil.example");
  says({ lumbo: 1, page: "/forged", keep: true }, site, { another: "window" });
  says({ page: "/forged", keep: true });
  says(null);
  await vi.advanceTimersByTimeAsync(1_500);
  await opening;
  await side.start();
  const started = calls.find((call) => call.path.endsWith("/conversations"))?.body;
  expect(started?.context).toMatchObject({ page: null, carried: {} });
  expect(kept.size).toBe(0);
});

test("nothing is kept without consent, and the same page load goes on all the same", async () => {
  const side = onPlacement("p1", true);
  const opening = side.opening();
  says({ lumbo: 1, page: "/prices", keep: false });
  await opening;
  await side.start();
  expect(kept.size).toBe(0);
  expect((await side.resume())?.token).toBe("t");
});

test("an opening is counted once, and only events without words leave the frame", async () => {
  const side = onPlacement("p1", true);
  const opening = side.opening();
  says({ lumbo: 1, page: "/prices", keep: false });
  const { placed } = await opening;
  says({ lumbo: 1, do: "open" });
  says({ lumbo: 1, do: "open" });
  placed?.tell("started");
  placed?.tell("filed");
  expect(calls.filter((call) => call.path === "/api/at/p1/opened")).toHaveLength(1);
  expect(told.slice(1)).toEqual([
    [{ lumbo: 1, did: "started" }, site],
    [{ lumbo: 1, did: "filed" }, site],
  ]);
});

test("what the server put into the page is not asked for again", async () => {
  vi.stubGlobal("document", {
    referrer: "",
    getElementById: (id: string) => (id === "first" ? { textContent: JSON.stringify(view) } : null),
  });
  const side = onPlacement("autumn-26", false);
  expect((await side.opening()).placed?.close).toBeUndefined();
  expect(calls.map((call) => call.path)).toEqual(["/api/at/autumn-26/opened"]);
});

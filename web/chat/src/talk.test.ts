import { afterEach, beforeEach, expect, test, vi } from "vitest";

import { Failed, drafts, newId, onAir, onDraft } from "./talk";

type Call = { path: string; method: string; headers: Record<string, string>; body: unknown; credentials: string };

let calls: Call[];
let answers: { status: number; json: unknown }[];
let kept: Map<string, string>;
let replaced: string[];
let told: unknown[];

/** The context that a start said. */
const contextOf = (call: Call | undefined) => (call?.body as { context: Record<string, unknown> } | undefined)?.context;

function page(address: string) {
  const url = new URL(address, "https://site.example");
  vi.stubGlobal("location", { hash: url.hash, search: url.search, pathname: url.pathname, origin: url.origin });
}

beforeEach(() => {
  calls = [];
  answers = [];
  kept = new Map();
  replaced = [];
  vi.stubGlobal("fetch", async (path: string, options: RequestInit) => {
    const body = options.body === undefined ? undefined : (JSON.parse(String(options.body)) as unknown);
    const headers = options.headers as Record<string, string>;
    calls.push({ path, method: options.method ?? "", headers, body, credentials: options.credentials ?? "" });
    const answer = answers.shift();
    if (!answer) throw new TypeError("no network");
    return { ok: answer.status < 400, status: answer.status, json: async () => answer.json };
  });
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
  vi.stubGlobal("history", { state: null, replaceState: (_: unknown, __: string, to: string) => replaced.push(to) });
  told = [];
  vi.stubGlobal("window", { innerWidth: 360, parent: { postMessage: (what: unknown) => told.push(what) } });
  vi.stubGlobal("document", { referrer: "" });
  vi.stubGlobal("navigator", { language: "de-DE" });
  page("/p/storage?utm_source=mail");
});

afterEach(() => {
  vi.unstubAllGlobals();
});

test("a start says what is known of the visit, keeps the token, and tells a second visit apart", async () => {
  answers.push({ status: 200, json: { token: "secret", view: { lines: [] } } });
  const side = onAir("storage");
  expect((await side.start()).token).toBe("secret");
  expect(kept.get("lumbo:storage")).toBe("secret");
  const context = contextOf(calls[0]);
  expect(context).toMatchObject({ page: "/p/storage", campaign_source: "mail", device: "phone", language: "de-DE" });
  expect(context).not.toHaveProperty("returning");
  answers.push({ status: 200, json: { token: "other", view: { lines: [] } } });
  await side.start();
  expect(contextOf(calls[1])).toHaveProperty("returning", "yes");
});

test("a start whose answer was lost is asked for again under the same id, the next one under another", async () => {
  const side = onAir("storage");
  const id = (call: unknown) => (call as { body: { id: string } }).body.id;
  await expect(side.start()).rejects.toEqual(new Failed("", "offline"));
  answers.push({ status: 200, json: { token: "secret", view: { lines: [] } } });
  await side.start();
  answers.push({ status: 200, json: { token: "other", view: { lines: [] } } });
  await side.start();
  expect(id(calls[0]).length).toBeGreaterThanOrEqual(16);
  expect(id(calls[1])).toBe(id(calls[0]));
  expect(id(calls[2])).not.toBe(id(calls[0]));
});

test("an answer carries the token, an id of its own and the number of answers before it, and no cookies", async () => {
  answers.push({ status: 200, json: { sequence: 2, lines: [] } });
  await onAir("storage").answer("secret", "id-1", 1, { kind: "reply", text: "frozen" });
  expect(calls[0]).toMatchObject({
    path: "/api/conversation/inputs",
    method: "POST",
    headers: { authorization: "Bearer secret" },
    body: { id: "id-1", expects: 1, body: { kind: "reply", text: "frozen" } },
    credentials: "omit",
  });
});

test("a conversation that is gone is forgotten; any other failure keeps the token", async () => {
  kept.set("lumbo:storage", "secret");
  answers.push({ status: 500, json: { type: "urn:lumbo:problem:internal", detail: "It broke." } });
  await expect(onAir("storage").resume()).rejects.toMatchObject({ code: "internal", message: "It broke." });
  expect(kept.get("lumbo:storage")).toBe("secret");
  answers.push({ status: 404, json: { type: "urn:lumbo:problem:no-conversation" } });
  expect(await onAir("storage").resume()).toBeNull();
  expect(kept.has("lumbo:storage")).toBe(false);
  expect(await onAir("storage").resume()).toBeNull();
  expect(calls).toHaveLength(2);
});

test("no network and an answer that is no JSON are failures with a code", async () => {
  await expect(onAir("storage").opening()).rejects.toEqual(new Failed("", "offline"));
  answers.push({ status: 502, json: null });
  await expect(onAir("storage").opening()).rejects.toMatchObject({ code: "http-502" });
});

test("what the site signed is taken off the address and sent once with the start", async () => {
  page("/p/storage?a=1#visitor=signed.by.site");
  answers.push({ status: 200, json: { token: "secret", view: { lines: [] } } });
  const side = onAir("storage");
  expect(replaced).toEqual(["/p/storage?a=1"]);
  await side.start();
  expect(calls[0]?.body).toMatchObject({ visitor: "signed.by.site" });
});

test("a half-filled form is kept until it is empty again, and nonsense in its place is nothing", () => {
  drafts.set("form", { name: "Ana", email: "" });
  expect(drafts.get("form")).toEqual({ name: "Ana", email: "" });
  drafts.set("form", { name: "", email: "" });
  expect(kept.has("form")).toBe(false);
  kept.set("form", "{nonsense");
  expect(drafts.get("form")).toEqual({});
});

test("where the browser keeps nothing, the page does while it is open", () => {
  const refuse = () => {
    throw new Error("refused");
  };
  vi.stubGlobal("localStorage", { getItem: refuse, setItem: refuse, removeItem: refuse });
  drafts.set("memory", { name: "Ana" });
  expect(drafts.get("memory")).toEqual({ name: "Ana" });
  drafts.set("memory", {});
  expect(drafts.get("memory")).toEqual({});
});

test("a rehearsal sends every input again and shows what came since", async () => {
  page("/rehearse#" + encodeURIComponent(JSON.stringify({ inputs: [{ kind: "start" }] })));
  const side = onDraft("d1");
  answers.push({ status: 200, json: { page: { sequence: 1, lines: ["one"] } } });
  expect((await side.resume())?.view.lines).toEqual(["one"]);
  answers.push({ status: 200, json: { page: { sequence: 2, lines: ["one", "two", "three"] } } });
  const view = await side.answer("", "id", 1, { kind: "reply", text: "frozen" });
  expect(view.lines).toEqual(["two", "three"]);
  expect(calls[1]).toMatchObject({
    path: "/api/dialogues/d1/rehearsal",
    credentials: "same-origin",
    body: { inputs: [{ kind: "start" }, { kind: "reply", text: "frozen" }] },
  });
  // The page around it is told, so that the dock shows the same.
  expect(told).toEqual([{ inputs: [{ kind: "start" }, { kind: "reply", text: "frozen" }] }]);
  side.forget();
  expect(await side.resume()).toBeNull();
});

test("ids of answers are long and never the same", () => {
  const ids = new Set(Array.from({ length: 200 }, newId));
  expect(ids.size).toBe(200);
  expect([...ids].every((id) => id.length >= 16 && id.length <= 64)).toBe(true);
});

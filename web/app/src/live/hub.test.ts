import { afterEach, beforeEach, expect, test, vi } from "vitest";

import { Hub } from "./hub";

type Opened = { address: string; closed: boolean; readyState: number; fire: (name: string, data?: unknown) => void };

let opened: Opened[];

function open(address: string) {
  const listeners = new Map<string, ((event: Event) => void)[]>();
  const source = {
    address,
    closed: false,
    readyState: 1,
    addEventListener: (name: string, heard: (event: Event) => void) => {
      listeners.set(name, [...(listeners.get(name) ?? []), heard]);
    },
    close: () => {
      source.closed = true;
      source.readyState = 2;
    },
    fire: (name: string, data?: unknown) => {
      for (const heard of listeners.get(name) ?? []) heard({ data: JSON.stringify(data ?? {}) } as MessageEvent);
    },
  };
  opened.push(source);
  return source as unknown as EventSource;
}

beforeEach(() => {
  opened = [];
  vi.useFakeTimers();
});

afterEach(() => {
  vi.useRealTimers();
});

test("topics wanted in one go share one stream, and each hears its own", () => {
  const hub = new Hub(open);
  const leads = vi.fn();
  const draft = vi.fn();
  hub.listen("leads", leads);
  hub.listen("draft.1", draft);
  vi.runAllTimers();
  expect(opened.map((source) => source.address)).toEqual(["/api/live?topics=draft.1%2Cleads"]);
  opened[0]?.fire("changed", { topic: "leads", kind: "lead" });
  opened[0]?.fire("again", { topic: "draft.1", kind: "all" });
  expect(leads.mock.calls).toEqual([["lead"]]);
  expect(draft.mock.calls).toEqual([["all"]]);
});

test("a topic more opens the stream anew, and who listened before reads all again", () => {
  const hub = new Hub(open);
  const leads = vi.fn();
  const draft = vi.fn();
  hub.listen("leads", leads);
  vi.runAllTimers();
  opened[0]?.fire("at");
  expect(leads).not.toHaveBeenCalled();
  const stop = hub.listen("draft.1", draft);
  vi.runAllTimers();
  expect([opened[0]?.closed, opened.length]).toEqual([true, 2]);
  opened[1]?.fire("at");
  expect([leads.mock.calls.length, draft.mock.calls.length]).toEqual([1, 0]);
  stop();
  vi.runAllTimers();
  expect(opened[2]?.address).toBe("/api/live?topics=leads");
});

test("a refused stream is asked for again after a while, and a broken one is left to the browser", () => {
  const hub = new Hub(open);
  hub.listen("leads", vi.fn());
  vi.runAllTimers();
  opened[0]?.fire("error");
  vi.advanceTimersByTime(60_000);
  expect(opened.length).toBe(1);
  if (opened[0]) opened[0].readyState = 2;
  opened[0]?.fire("error");
  vi.advanceTimersByTime(9_000);
  expect(opened.length).toBe(1);
  vi.advanceTimersByTime(12_000);
  expect(opened.length).toBe(2);
});

test("without a listener there is no stream", () => {
  const hub = new Hub(open);
  const stop = hub.listen("leads", vi.fn());
  vi.runAllTimers();
  stop();
  vi.runAllTimers();
  expect([opened.length, opened[0]?.closed]).toEqual([1, true]);
});

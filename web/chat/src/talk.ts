/**
 * One conversation with the server.
 *
 * The token stands in this browser's storage, so that a reload goes on where it was. Every answer has an id of its own
 * and the number of answers before it: a resent one gives the first result again, and a second click does nothing.
 */
import type { components } from "../../api/schema";

type Schemas = components["schemas"];
export type View = Schemas["ProspectView"];
export type Line = Schemas["ProspectLine"];
export type Question = Schemas["Question"];
export type Opening = Schemas["OpeningView"];
export type Body = Schemas["InputBody"];

/** A failure that the page shows: a sentence, and whether the same answer may simply be sent again. */
export class Failed extends Error {
  readonly code: string;
  constructor(detail: string, code: string) {
    super(detail);
    this.code = code;
  }
}

async function call<T>(path: string, token: string | null, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: body === undefined ? "GET" : "POST",
      headers: {
        ...(body === undefined ? {} : { "content-type": "application/json" }),
        ...(token ? { authorization: `Bearer ${token}` } : {}),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
      credentials: "omit",
    });
  } catch {
    throw new Failed("", "offline");
  }
  const json = (await response.json().catch(() => null)) as (T & { type?: string; detail?: string }) | null;
  if (response.ok && json) return json;
  throw new Failed(
    json?.detail ?? "",
    (json?.type ?? "").replace("urn:lumbo:problem:", "") || `http-${response.status}`,
  );
}

const memory = new Map<string, string>();

/** Browser storage where there is any; private windows may refuse it. */
const store = {
  get: (key: string): string | null => {
    try {
      return localStorage.getItem(key);
    } catch {
      return memory.get(key) ?? null;
    }
  },
  set: (key: string, value: string | null) => {
    try {
      if (value === null) localStorage.removeItem(key);
      else localStorage.setItem(key, value);
    } catch {
      if (value === null) memory.delete(key);
      else memory.set(key, value);
    }
  },
};

const tokenKey = (slug: string) => `lumbo:${slug}`;

export const opening = (slug: string): Promise<Opening> => call<Opening>(`/api/p/${encodeURIComponent(slug)}`, null);

/** The conversation this browser has open at an address, where it has one. */
export async function resume(slug: string): Promise<{ token: string; view: View } | null> {
  const token = store.get(tokenKey(slug));
  if (!token) return null;
  try {
    return { token, view: await call<View>("/api/conversation", token) };
  } catch (error) {
    if (error instanceof Failed && (error.code === "not-found" || error.code === "no-conversation")) {
      store.set(tokenKey(slug), null);
      return null;
    }
    throw error;
  }
}

function context(slug: string) {
  const query = new URLSearchParams(location.search);
  const width = window.innerWidth;
  const before = store.get(`${tokenKey(slug)}:before`);
  store.set(`${tokenKey(slug)}:before`, "yes");
  return {
    page: location.pathname,
    referrer: document.referrer || null,
    campaign: query.get("utm_campaign"),
    language: navigator.language,
    device: width < 600 ? "phone" : width < 1000 ? "tablet" : "computer",
    time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    ...(before ? { returning: "yes" } : {}),
  };
}

export async function start(slug: string): Promise<{ token: string; view: View }> {
  const started = await call<{ token: string; view: View }>(`/api/p/${encodeURIComponent(slug)}/conversations`, null, {
    id: newId(),
    context: context(slug),
  });
  store.set(tokenKey(slug), started.token);
  return started;
}

export const answer = (token: string, id: string, expects: number, body: Body): Promise<View> =>
  call<View>("/api/conversation/inputs", token, { id, expects, body });

export const forget = (slug: string): void => store.set(tokenKey(slug), null);

/** An id for one answer. */
export const newId = (): string =>
  [...crypto.getRandomValues(new Uint32Array(4))].map((part) => part.toString(36)).join("");

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
export type Body = Schemas["ProspectInput"];

/** A failure that the page shows: a sentence, and whether the same answer may simply be sent again. */
export class Failed extends Error {
  readonly code: string;
  constructor(detail: string, code: string) {
    super(detail);
    this.code = code;
  }

  /** True where the same may go well in a moment: no connection, a server or its database that does not answer. */
  get passes(): boolean {
    return (
      ["offline", "failed", "away", "busy", "too-many-requests"].includes(this.code) || /^http-(408|5)/.test(this.code)
    );
  }
}

async function call<T>(
  path: string,
  token: string | null,
  body?: unknown,
  { signedIn = false, keepalive = false } = {},
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: body === undefined ? "GET" : "POST",
      headers: {
        ...(body === undefined ? {} : { "content-type": "application/json" }),
        ...(token ? { authorization: `Bearer ${token}` } : {}),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
      credentials: signedIn ? "same-origin" : "omit",
      keepalive,
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

/** What an address answers, read without being anybody. */
export const fetched = <T>(path: string): Promise<T> => call<T>(path, null);

const memory = new Map<string, string>();

/** What may be kept in this browser: a placement may wait for the visitor's consent to its site. */
export const keeping = { allowed: true };

/** Browser storage where there is any; private windows may refuse it. */
const store = {
  get: (key: string): string | null => {
    if (!keeping.allowed) return memory.get(key) ?? null;
    try {
      return localStorage.getItem(key);
    } catch {
      return memory.get(key) ?? null;
    }
  },
  set: (key: string, value: string | null) => {
    try {
      if (!keeping.allowed) throw new Error("kept for this page only");
      if (value === null) localStorage.removeItem(key);
      else localStorage.setItem(key, value);
    } catch {
      if (value === null) memory.delete(key);
      else memory.set(key, value);
    }
  },
};

/** Half-filled forms, kept in this browser until they are sent or the conversation is forgotten. */
export const drafts = {
  get: (key: string): Record<string, string> => {
    try {
      return JSON.parse(store.get(key) ?? "{}") as Record<string, string>;
    } catch {
      return {};
    }
  },
  set: (key: string, values: Record<string, string>) => {
    const filled = Object.values(values).some((value) => value !== "");
    store.set(key, filled ? JSON.stringify(values) : null);
  },
};

/** A conversation as the page sees it; the token is empty in a rehearsal. */
export type Known = { token: string; view: View; test?: boolean };

/** How the page looks in a placement, and what the page around it is told. */
export type Placed = {
  look: Schemas["PlacedLook"];
  /** Something happened that the site may want to know: that it did, never what was said. */
  tell: (what: "started" | "filed") => void;
  /** Closes the window, where it is one. */
  close?: () => void;
};

/** What the page talks to: the release on air, or an author's draft. */
export type Side = {
  opening: () => Promise<Opening & { placed?: Placed }>;
  /** The conversation that is open already, where there is one. */
  resume: () => Promise<Known | null>;
  /** Begins; `website` is a field that no person sees. */
  start: (website?: string) => Promise<Known>;
  /** One answer; gives what came since. */
  answer: (token: string, id: string, expects: number, body: Body) => Promise<View>;
  /** Says that they leave, where they can be heard; nothing waits for it. */
  leave: (token: string, expects: number) => void;
  forget: () => void;
  /** Address of a picture or document. */
  media: (hash: string) => string;
};

/** What the site signed about its visitor, behind the address; taken off it, so that it is not kept or passed on. */
function takeVisitor(): string | null {
  const token = new URLSearchParams(location.hash.slice(1)).get("visitor");
  if (token !== null) history.replaceState(history.state, "", location.pathname + location.search);
  return token;
}

/** What a placement knows of the visit, in place of what its own address says. */
export type Visit = { placement: string; context: Record<string, unknown>; visitor: string | null };

/** The release that is on air at an address. */
export function onAir(slug: string, visit?: Visit): Side {
  const tokenKey = `lumbo:${slug}`;
  const path = `/api/p/${encodeURIComponent(slug)}`;
  const visitor = visit?.visitor ?? takeVisitor();
  // A start whose answer was lost is asked for again under the same id, and begins no second conversation.
  let starting: string | null = null;
  const context = () => {
    const query = new URLSearchParams(location.search);
    const width = window.innerWidth;
    const before = store.get(`${tokenKey}:before`);
    store.set(`${tokenKey}:before`, "yes");
    return {
      page: location.pathname,
      referrer: document.referrer || null,
      campaign: query.get("utm_campaign"),
      campaign_source: query.get("utm_source"),
      campaign_medium: query.get("utm_medium"),
      campaign_term: query.get("utm_term"),
      campaign_content: query.get("utm_content"),
      language: navigator.language,
      device: width < 600 ? "phone" : width < 1000 ? "tablet" : "computer",
      time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
      ...(before ? { returning: "yes" } : {}),
      ...visit?.context,
    };
  };
  return {
    opening: () => call<Opening>(path, null),
    resume: async () => {
      const token = store.get(tokenKey);
      if (!token) return null;
      try {
        const view = await call<View & { test: boolean }>("/api/conversation", token);
        return { token, view, test: view.test };
      } catch (error) {
        if (error instanceof Failed && (error.code === "not-found" || error.code === "no-conversation")) {
          store.set(tokenKey, null);
          return null;
        }
        throw error;
      }
    },
    start: async (website = "") => {
      starting ??= newId();
      const started = await call<Known>(
        `${path}/conversations`,
        null,
        {
          id: starting,
          context: context(),
          visitor,
          test: new URLSearchParams(location.search).has("test"),
          website,
          ...(visit ? { placement: visit.placement } : {}),
        },
        { signedIn: true },
      );
      starting = null;
      store.set(tokenKey, started.token);
      return started;
    },
    answer: (token, id, expects, body) => call<View>("/api/conversation/inputs", token, { id, expects, body }),
    leave: (token, expects) =>
      void call(
        "/api/conversation/inputs",
        token,
        { id: newId(), expects, body: { kind: "leave" } },
        { keepalive: true },
      ).catch(() => null),
    forget: () => store.set(tokenKey, null),
    media: (hash) => `${path}/media/${hash}`,
  };
}

type Rehearsed = { inputs: Body[]; from?: string } & Record<string, unknown>;

/**
 * An author's draft, inside the author's own page: nothing is kept, and every answer is told to the page around it. What
 * is rehearsed stands behind the address's hash sign.
 */
export function onDraft(dialogue: string): Side {
  const path = `/api/dialogues/${encodeURIComponent(dialogue)}`;
  let body: Rehearsed = { inputs: [] };
  try {
    body = JSON.parse(decodeURIComponent(location.hash.slice(1))) as Rehearsed;
  } catch {
    // Without one it begins at the start, as anybody.
  }
  const run = async (): Promise<View> =>
    (await call<{ page: View }>(`${path}/rehearsal`, null, body, { signedIn: true })).page;
  const tell = () => {
    if (window.parent !== window) window.parent.postMessage({ inputs: body.inputs }, location.origin);
  };
  let seen = 0;
  return {
    opening: () => call<Opening>(`${path}/opening`, null, undefined, { signedIn: true }),
    resume: async () => {
      if (body.inputs.length === 0 && !body.from) return null;
      const view = await run();
      seen = view.lines.length;
      return { token: "", view };
    },
    start: async () => {
      const view = await run();
      seen = view.lines.length;
      return { token: "", view };
    },
    answer: async (_token, _id, _expects, answered) => {
      body = { ...body, inputs: [...body.inputs, answered] };
      const view = await run();
      const lines = view.lines.slice(seen);
      seen = view.lines.length;
      tell();
      return { ...view, lines };
    },
    leave: () => undefined,
    forget: () => {
      body = { ...body, inputs: [], from: undefined };
      seen = 0;
      tell();
    },
    media: (hash) => `/api/media/${hash}`,
  };
}

/** An id for one answer. */
export const newId = (): string =>
  [...crypto.getRandomValues(new Uint32Array(4))].map((part) => part.toString(36).padStart(7, "0")).join("");

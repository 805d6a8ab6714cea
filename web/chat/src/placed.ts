/** The page as a placement shows it: on its own address, or in a frame on a customer's page. */
import type { components } from "../../api/schema";
import type { Placed, Side } from "./talk";
import { fetched, keeping, onAir } from "./talk";

type PlacedView = components["schemas"]["PlacedView"];

/** What the page around the frame says of the visit. */
type Said = {
  page?: string;
  from?: string;
  first?: { page?: string; from?: string };
  back?: boolean;
  /** True where it stands over the page and can be closed. */
  floats?: boolean;
  keep?: boolean;
  carried?: Record<string, string>;
  visitor?: string | null;
};

/** How long the page around has to say something of the visit before the conversation goes on without. */
const PATIENCE_MS = 1_500;

/**
 * The page around the frame. Its origin stands behind the address's hash sign, where the script put it; the browser has
 * made sure by `frame-ancestors` that it is one of the placement's sites, and every message is held against it.
 */
function around(onOpen: () => void) {
  const origin = /^#https?:\/\/[^/]+$/.test(location.hash) ? location.hash.slice(1) : null;
  let hear: (said: Said | null) => void = () => undefined;
  const said = new Promise<Said | null>((resolve) => {
    hear = resolve;
  });
  if (origin === null || window.parent === window) hear(null);
  else setTimeout(() => hear(null), PATIENCE_MS);
  const tell = (did: string) => {
    if (origin !== null && window.parent !== window) window.parent.postMessage({ lumbo: 1, did }, origin);
  };
  window.addEventListener("message", (event: MessageEvent<unknown>) => {
    if (event.origin !== origin || event.source !== window.parent) return;
    const message = event.data as ({ lumbo?: number; do?: string } & Said) | null;
    if (message?.lumbo !== 1) return;
    if (message.do === "open") onOpen();
    else hear(message);
  });
  return { said, tell };
}

/** What the page shows first, where the server put it into the page. */
function first(): PlacedView | null {
  try {
    return JSON.parse(document.getElementById("first")?.textContent ?? "null") as PlacedView | null;
  } catch {
    return null;
  }
}

const text = (value: unknown): string | null => (typeof value === "string" && value !== "" ? value : null);

/** What a conversation is told of where it comes from. */
function contextOf({ page, from, first, back, carried = {} }: Said): Record<string, unknown> {
  const campaign = (part: string) => text(carried[`utm_${part}`]);
  const others = Object.entries(carried).filter(([name, value]) => !name.startsWith("utm_") && text(value) !== null);
  return {
    page: text(page),
    referrer: text(from),
    first_page: text(first?.page),
    first_referrer: text(first?.from),
    campaign: campaign("campaign"),
    campaign_source: campaign("source"),
    campaign_medium: campaign("medium"),
    campaign_term: campaign("term"),
    campaign_content: campaign("content"),
    carried: Object.fromEntries(others),
    ...(back === true ? { returning: "yes" } : {}),
  };
}

/** A placement by its id or address. */
export function onPlacement(name: string, framed: boolean): Side {
  const path = `/api/at/${encodeURIComponent(name)}`;
  let counted = false;
  const opened = () => {
    if (counted) return;
    counted = true;
    void fetch(`${path}/opened`, { method: "POST", credentials: "omit", keepalive: true }).catch(() => null);
  };
  const outside = framed ? around(opened) : null;
  const load = async () => {
    const [view, said] = await Promise.all([first() ?? fetched<PlacedView>(path), outside?.said ?? null]);
    if (framed) keeping.allowed = said?.keep === true;
    const visit = { placement: view.id, context: framed ? contextOf(said ?? {}) : {}, visitor: text(said?.visitor) };
    return { view, side: onAir(view.slug, visit), floats: said?.floats === true };
  };
  type Loaded = Awaited<ReturnType<typeof load>>;
  let loading: Promise<Loaded> | null = null;
  let loaded: Loaded | null = null;
  /** Loaded once; what failed is tried again at the next call. */
  const ready = async (): Promise<Loaded> => {
    loading ??= load();
    try {
      loaded = await loading;
    } catch (error) {
      loading = null;
      throw error;
    }
    return loaded;
  };
  outside?.tell("ready");
  return {
    opening: async () => {
      const { view, floats } = await ready();
      const { opening, look } = view;
      if (!framed) opened();
      const placed: Placed = {
        look,
        tell: (what) => {
          opened();
          outside?.tell(what);
        },
        ...(outside && floats ? { close: () => outside.tell("close") } : {}),
      };
      return { ...opening, placed };
    },
    resume: async () => (await ready()).side.resume(),
    start: async (website) => (await ready()).side.start(website),
    answer: async (...args) => (await ready()).side.answer(...args),
    leave: (...args) => loaded?.side.leave(...args),
    forget: () => loaded?.side.forget(),
    media: (hash) => loaded?.side.media(hash) ?? "",
  };
}

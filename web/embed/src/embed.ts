/**
 * The script behind the one line on a customer's page. It asks what shows here, draws the button and the frame, and
 * carries messages between page and frame. No framework, one global, nothing kept before consent.
 */

/** The server puts the names of the query parameters in here that may be sent. */
const named = JSON.parse("%named%") as string[];

type Shown = {
  slot: string;
  id: string;
  form: "corner" | "inline" | "pop_up";
  when: "at_once" | "after_seconds" | "at_percent" | "leaving" | "at_click";
  value: number;
  shows: "button" | "line" | "open";
  name: string;
  line: string;
  language: string;
  colour: string;
  on_colour: string;
  corner: "left" | "right";
  from_side: number;
  from_bottom: number;
  size: number;
  rounding: number;
  keeps: "after_consent" | "at_once";
  carries: string[];
};
type Kept = { v?: string; page?: string; from?: string; filed?: number; shut?: number; query?: Record<string, string> };
/** What stands on the page; its abort ends everything that listens for it. */
type Placed = {
  shown: Shown;
  el: HTMLElement;
  stop: AbortController;
  open: (by?: boolean) => unknown;
  close?: () => unknown;
};

const doc = document;
const script = doc.currentScript as HTMLScriptElement | null;
const page = window as unknown as { lumbo?: unknown; CustomEvent: typeof CustomEvent };

if (script && !page.lumbo && "fetch" in window && "adoptedStyleSheets" in doc) {
  const source = new URL(script.src);
  const base = source.origin;
  const key = source.pathname.slice(3, -3);
  const store = "lumbo:" + key;
  const day = 864e5;
  const first = { page: location.pathname, from: doc.referrer };
  let consent: boolean | null = null;
  let keepsAtOnce = false;
  let token: string | null = null;
  let kept: Kept = {};
  let placed: Record<string, Placed> = {};
  let address = "";
  let round = 0;
  let carries: string[] = [];

  const mayKeep = () => consent === true || (consent === null && keepsAtOnce);
  const save = () => {
    try {
      if (mayKeep()) localStorage.setItem(store, JSON.stringify(kept));
      else localStorage.removeItem(store);
    } catch {
      // Blocked: it lasts as long as the page.
    }
  };
  const keep = (more: Kept) => {
    Object.assign(kept, more);
    if (mayKeep()) save();
  };
  try {
    kept = JSON.parse(localStorage.getItem(store) || "{}") as Kept;
  } catch {
    // Blocked, or not ours.
  }
  const known = !!kept.v;

  const tell = (what: string) => doc.dispatchEvent(new CustomEvent("lumbo:" + what));
  const make = (kind: string, into: Node, says?: string) => {
    const el = doc.createElement(kind);
    if (says) el.textContent = says;
    return into.appendChild(el);
  };
  const device = () =>
    innerWidth < 600 ? "phone" : innerWidth < 1100 && matchMedia("(pointer:coarse)").matches ? "tablet" : "computer";
  const now = Date.now;
  /** Query parameters that pass, the first of each name. */
  const query = (passes: (name: string) => boolean) => {
    const out: Record<string, string> = {};
    new URLSearchParams(location.search).forEach((value, name) => {
      if (passes(name)) out[name] ??= value.slice(0, 200);
    });
    return out;
  };
  const goesAlong = (name: string) => name.startsWith("utm_") || carries.includes(name);

  /** The frame, and what goes in and out of it. */
  const framed = (shown: Shown, into: Node, { signal }: AbortController, did?: (what: string) => void) => {
    const frame = make("iframe", into) as HTMLIFrameElement;
    frame.title = shown.name || "Lumbo";
    frame.src = base + "/f/" + shown.id + "#" + location.origin;
    const send = (what: object) => frame.contentWindow?.postMessage({ lumbo: 1, ...what }, base);
    const hear = ({ origin, source, data }: MessageEvent<{ lumbo?: number; did?: string } | null>) => {
      if (origin !== base || source !== frame.contentWindow || data?.lumbo !== 1) return;
      const what = data.did ?? "";
      if (what === "ready") {
        send({
          page: location.pathname,
          from: doc.referrer,
          first: { ...first, ...kept },
          back: known,
          floats: !!did,
          keep: mayKeep(),
          carried: { ...kept.query, ...query(goesAlong) },
          visitor: token,
        });
      }
      if (what === "filed") keep({ filed: now() });
      if (what !== "ready" && what !== "close") tell(what);
      did?.(what);
    };
    addEventListener("message", hear, { signal });
    return { frame, send };
  };

  /** In the text of the page. */
  const inline = (shown: Shown, at: HTMLElement): Placed => {
    const stop = new AbortController();
    const { frame } = framed(shown, at, stop);
    frame.style.cssText = "border:0;display:block;width:100%;height:" + Math.max(at.clientHeight, 520) + "px";
    return { shown, el: frame, stop, open: (by) => by && frame.focus() };
  };

  /** A button in the corner, or a window over the page. Styles are set by script, which strict policies allow. */
  const floating = (shown: Shown): Placed => {
    const stop = new AbortController();
    const host = make("div", doc.body);
    host.style.cssText = "all:initial";
    const root = host.attachShadow({ mode: "open" });
    const { corner: side, from_side: x, from_bottom: y, size, colour, on_colour: on, line } = shown;
    const styles = new CSSStyleSheet();
    const mid = shown.form === "pop_up";
    styles.replaceSync(
      `*{all:unset;box-sizing:border-box;cursor:pointer}[hidden]{display:none!important}:focus-visible{outline:3px solid ${colour};outline-offset:2px}` +
        `.b,p,iframe{position:fixed;z-index:1000000;${side}:${x}px;bottom:${y}px}` +
        `.b{width:${size}px;height:${size}px;border-radius:${shown.rounding}px;background:${colour};color:${on};display:grid;place-items:center;box-shadow:0 0 0 1px ${on}}` +
        `.b:before{content:"";width:22px;height:16px;background:linear-gradient(${on} 0 0) 0 0/22px 2px,linear-gradient(${on} 0 0) 0 7px/22px 2px,linear-gradient(${on} 0 0) 0 14px/13px 2px;background-repeat:no-repeat}` +
        `p{${side}:${x + size + 10}px;display:flex;max-width:min(260px,100vw - ${x + size + 30}px);background:#fffdf8;border:1px solid #ded8c9;border-radius:6px;color:#1d2b2c;font:16px/1.4 Georgia,serif}` +
        `.a{padding:10px 0 10px 12px}.i{padding:9px 16px}` +
        `iframe{width:400px;height:640px;max-width:calc(100vw - 24px);max-height:calc(100vh - ${y + 12}px);border-radius:${Math.min(shown.rounding, 18)}px;background:#fffdf8;box-shadow:0 0 0 1px #0003,0 8px 30px #0003${mid ? ";inset:0;margin:auto" : ""}}` +
        "@media(max-width:599px){iframe{inset:0;width:100%;height:100%;max-width:none;max-height:none;border-radius:0}}",
    );
    root.adoptedStyleSheets = [styles];
    const press = (into: Node, kind: string, says: string, label: string, run: () => void) => {
      const el = make("button", into, says);
      el.className = kind;
      el.ariaLabel = label;
      el.addEventListener("click", run);
      el.addEventListener("pointerenter", ready);
      return el;
    };
    let button: HTMLElement | null = null;
    let invited: HTMLElement | null = null;
    let inner: ReturnType<typeof framed> | null = null;
    let isOpen = false;
    const set = (open: boolean) => {
      isOpen = open;
      if (inner) inner.frame.hidden = !open;
      if (button) button.hidden = open;
      invited?.remove();
      (open ? inner?.frame : button)?.focus();
      tell(open ? "opened" : "closed");
    };
    /** Made when somebody is about to press, so that it is there once they have. */
    const ready = () => {
      inner ??= framed(shown, root, stop, (did) => {
        if (did === "close" && isOpen) set(false);
        if (did === "ready" && isOpen) inner?.send({ do: "open" });
      });
      inner.frame.hidden = !isOpen;
    };
    const show = () => {
      ready();
      set(true);
      inner?.send({ do: "open" });
    };
    if (!mid) {
      button = press(root, "b", "", line || shown.name || "Lumbo", show);
      tell("shown");
    }
    const invite = () => {
      if (isOpen || invited || !line || now() - (kept.shut ?? 0) < 14 * day) return;
      invited = make("p", root);
      press(invited, "a", line, line, show).lang = shown.language;
      press(invited, "i", "×", "×", () => {
        keep({ shut: now() });
        invited?.remove();
        button?.focus();
      });
    };
    return {
      shown,
      el: host,
      stop,
      open: (by) => (by || shown.shows === "open" ? show() : shown.shows === "line" && invite()),
      close: () => isOpen && set(false),
    };
  };

  /** Waits for the moment at which a placement opens. */
  const arm = ({ shown: { when, value }, open, stop: { signal } }: Placed) => {
    const once = () => signal.aborted || open();
    if (when === "at_once") open();
    if (when === "after_seconds") setTimeout(once, value * 1000);
    const leaving = when === "leaving";
    if (!leaving && when !== "at_percent") return;
    const watch = new AbortController();
    (leaving ? doc : window).addEventListener(
      leaving ? "mouseout" : "scroll",
      (event) => {
        const { relatedTarget, clientY } = event as MouseEvent;
        if (
          leaving
            ? !relatedTarget && clientY <= 0
            : scrollY + innerHeight >= (doc.documentElement.scrollHeight * value) / 100
        ) {
          watch.abort();
          once();
        }
      },
      { signal: watch.signal, passive: true },
    );
  };

  /** Asks what shows on the page as it is now. */
  const ask = async () => {
    const here = location.pathname + location.search;
    if (address === here) return;
    address = here;
    const mine = ++round;
    const places = [...doc.querySelectorAll<HTMLElement>("[data-lumbo]")];
    let found: Shown[];
    try {
      const answer = await fetch(base + "/e/" + key + "/visit", {
        method: "POST",
        body: JSON.stringify({
          path: location.pathname,
          query: query((name) => named.includes(name)),
          slots: places.map((place) => place.dataset.lumbo),
          device: device(),
          language: navigator.language,
          zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
          returning: known,
          signed_in: !!token,
          filed_days: kept.filed ? Math.floor((now() - kept.filed) / day) : null,
          visitor: kept.v ?? null,
        }),
      });
      found = answer.status === 200 ? ((await answer.json()) as Shown[]) : [];
    } catch {
      return;
    }
    if (mine !== round) return;
    carries = found.flatMap((one) => one.carries);
    keepsAtOnce = found.length > 0 && found.every((one) => one.keeps === "at_once");
    if (mayKeep()) remember();
    const next: Record<string, Placed> = {};
    for (const one of found) {
      const before = placed[one.slot];
      const at = places.find((place) => "inline:" + place.dataset.lumbo === one.slot);
      const same = before && before.shown.id === one.id && before.el.isConnected;
      if (same) next[one.slot] = before;
      else if (one.form !== "inline") next[one.slot] = floating(one);
      else if (at) next[one.slot] = inline(one, at);
      const now = next[one.slot];
      if (now && !same) arm(now);
    }
    for (const slot in placed) {
      const gone = placed[slot];
      if (!gone || gone === next[slot]) continue;
      gone.stop.abort();
      gone.el.remove();
    }
    placed = next;
  };

  /** With consent: a random id, and where they first came from. */
  const remember = () => {
    keep({
      v: kept.v ?? Math.random().toString(36) + Math.random().toString(36),
      page: kept.page ?? first.page,
      from: kept.from ?? first.from,
      query: kept.query ?? query(goesAlong),
    });
  };

  /** After the page's own work. */
  const go = () => setTimeout(() => void ask(), 50);
  for (const name of ["pushState", "replaceState"] as const) {
    const was = history[name].bind(history);
    history[name] = (...args) => {
      was(...args);
      go();
    };
  }
  addEventListener("popstate", go);
  doc.addEventListener("click", (event) => {
    if (!(event.target as Element).closest("[data-lumbo-open]") || !placed.floating) return;
    event.preventDefault();
    placed.floating.open(true);
  });

  page.lumbo = {
    open: () => placed.floating?.open(true),
    close: () => placed.floating?.close?.(),
    consent: (yes: boolean) => {
      consent = yes;
      if (consent) return remember();
      kept = {};
      save();
    },
    visitor: (signed: string) => {
      token = signed;
    },
    on: (what: string, run: () => void) => doc.addEventListener("lumbo:" + what, run),
  };
  if (doc.readyState === "complete") go();
  else addEventListener("load", go);
}

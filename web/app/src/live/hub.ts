/**
 * One stream of events for this window, for everything that it shows. An event says only that something of a topic changed;
 * whoever listens reads it again. The browser comes back by itself after a break and says how far it had heard.
 */

/** What changed; `all` where everything of the topic is to be read again. */
export type Heard = (kind: string) => void;

type Source = Pick<EventSource, "addEventListener" | "close" | "readyState">;

/** How long after a refusal the stream is asked for again, and up to twice as long. */
const AGAIN_MS = 10_000;
const CLOSED = 2;

export class Hub {
  private readonly listeners = new Map<string, Set<Heard>>();
  private readonly open: (address: string) => Source;
  private source: Source | null = null;
  private topics = "";
  private planned: ReturnType<typeof setTimeout> | undefined;

  constructor(open: (address: string) => Source = (address) => new EventSource(address)) {
    this.open = open;
  }

  /** Listens to a topic until what it gives is called. */
  listen(topic: string, heard: Heard): () => void {
    const known = this.listeners.get(topic) ?? new Set();
    known.add(heard);
    this.listeners.set(topic, known);
    this.plan(0);
    return () => {
      known.delete(heard);
      if (known.size === 0) this.listeners.delete(topic);
      this.plan(0);
    };
  }

  /** Opens the stream anew where other topics are wanted; once for all that change in one go. */
  private plan(after: number) {
    clearTimeout(this.planned);
    this.planned = setTimeout(() => this.connect(), after);
  }

  private connect() {
    const topics = [...this.listeners.keys()].sort().join(",");
    if (topics === this.topics && this.source && this.source.readyState !== CLOSED) return;
    this.source?.close();
    this.source = null;
    const before = this.topics;
    this.topics = topics;
    if (!topics) return;
    const source = this.open(`/api/live?topics=${encodeURIComponent(topics)}`);
    this.source = source;
    source.addEventListener("at", () => {
      // Between two streams something may have happened to what was listened to before.
      for (const topic of before.split(",")) this.tell(topic, "all");
    });
    const told = (event: Event) => {
      const { topic, kind } = JSON.parse((event as MessageEvent<string>).data) as { topic: string; kind: string };
      this.tell(topic, kind);
    };
    source.addEventListener("changed", told);
    source.addEventListener("again", told);
    source.addEventListener("error", () => {
      // The browser comes back by itself after a break, and not after a refusal.
      if (source.readyState === CLOSED && this.source === source) this.plan(AGAIN_MS * (1 + Math.random()));
    });
  }

  private tell(topic: string, kind: string) {
    for (const heard of this.listeners.get(topic) ?? []) heard(kind);
  }
}

export const hub = new Hub();

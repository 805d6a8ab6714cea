import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { rehearsal, setRehearsal } from "./rehearsal";

/** The prospect's own page, as narrow as a phone, talking to the draft. What is answered there is answered here. */
export function NarrowPage() {
  const { dialogue, draft } = useShownDraft();
  const { body } = rehearsal.use();
  const frame = useRef<HTMLIFrameElement>(null);
  const text = JSON.stringify(body);
  // What the page was loaded with, and what it has come to since by answers given in it.
  const [loaded, setLoaded] = useState({ with: text, now: text, revision: draft.revision });
  if (loaded.now !== text || loaded.revision !== draft.revision)
    setLoaded({ with: text, now: text, revision: draft.revision });
  useEffect(() => {
    const onMessage = (event: MessageEvent) => {
      if (event.origin !== location.origin || event.source !== frame.current?.contentWindow) return;
      const { inputs } = (event.data ?? {}) as { inputs?: Schemas["ProspectInput"][] };
      if (!Array.isArray(inputs)) return;
      const next = { ...rehearsal.get().body, inputs };
      setLoaded((known) => ({ ...known, now: JSON.stringify(next) }));
      setRehearsal(() => next);
    };
    window.addEventListener("message", onMessage);
    return () => window.removeEventListener("message", onMessage);
  }, []);
  return (
    // oxlint-disable-next-line react/iframe-missing-sandbox -- our own page, which needs its session to read the draft
    <iframe
      ref={frame}
      key={`${loaded.revision} ${loaded.with}`}
      title="The prospect’s page, on the draft"
      src={`/rehearse/${dialogue}#${encodeURIComponent(loaded.with)}`}
      className="min-h-0 w-[360px] grow self-center border-x border-line"
    />
  );
}

import { useCallback, useEffect, useRef, useState } from "react";

import { Lines } from "./Lines";
import { Reply } from "./reply/Reply";
import { usePace } from "./pace";
import { Who, typesInto, wear } from "./look";
import type { Body, Known, Line, Opening, Placed, Question, Side } from "./talk";
import { Failed, newId } from "./talk";

/** `known`: how many lines were there before this page was opened. */
type Talk = {
  known: number;
  token: string;
  sequence: number;
  lines: Line[];
  question: Question | null;
  ended: boolean;
  filed?: boolean;
  test?: boolean;
};
type Waiting = { id: string; body: Body; says: string };

/** After this, and up to twice as long, the same is tried again; not all pages at one moment. */
const RETRY_MS = 2_500;
const soon = (again: () => void) => setTimeout(again, RETRY_MS * (1 + Math.random()));

/** What is said before the dialogue's own words are there. */
const unreached: Record<string, string> = {
  de: "Diese Seite ist gerade nicht zu erreichen. Wir versuchen es gleich noch einmal.",
  en: "We cannot reach this page at the moment. It will try again by itself.",
  es: "Ahora mismo no podemos abrir esta página. Lo intentaremos de nuevo enseguida.",
  fr: "Cette page est inaccessible pour le moment. Nous réessayons dans un instant.",
  nl: "Deze pagina is op dit moment niet bereikbaar. We proberen het zo opnieuw.",
  pl: "Ta strona jest teraz niedostępna. Za chwilę spróbujemy ponownie.",
};
const none: Line[] = [];

const resumed = ({ token, view, test }: Known): Talk => ({
  token,
  ...view,
  test,
  question: view.question ?? null,
  known: view.lines.length,
});

/** The prospect's page: a greeting with one button, then one question after another. */
export function Page({ side }: { side: Side }) {
  const [first, setFirst] = useState<(Opening & { placed?: Placed }) | null>(null);
  const [talk, setTalk] = useState<Talk | null>(null);
  const [gone, setGone] = useState(false);
  const [unread, setUnread] = useState(false);
  const [says, setSays] = useState("");
  const [waiting, setWaiting] = useState<Waiting | null>(null);
  const busy = useRef(false);
  const trap = useRef<HTMLInputElement>(null);
  const { shown, typing } = usePace(talk?.lines ?? none, first?.pace ?? "none", talk?.known ?? 0);
  const word = useCallback((key: string) => first?.words[key] ?? "", [first]);

  useEffect(() => {
    const load = async () => {
      try {
        const [found, before] = await Promise.all([side.opening(), side.resume()]);
        document.documentElement.lang = found.language;
        document.title = found.say.split(/[.!?]/)[0]?.slice(0, 60) ?? "";
        if (found.placed) wear(found.placed);
        setUnread(false);
        setFirst(found);
        if (before) setTalk(resumed(before));
      } catch (error) {
        if (error instanceof Failed && error.passes) {
          setUnread(true);
          soon(() => void load());
        } else setGone(true);
      }
    };
    void load();
  }, [side]);

  const begin = async () => {
    if (busy.current) return;
    busy.current = true;
    setSays("");
    try {
      const started = await side.start(trap.current?.value);
      setTalk({ ...resumed(started), known: 0 });
      first?.placed?.tell("started");
      busy.current = false;
    } catch (error) {
      busy.current = false;
      if (error instanceof Failed && !error.passes) return setSays(error.message);
      setSays(word("offline"));
      soon(() => void begin());
    }
  };

  const send = async (known: Talk, one: Waiting) => {
    setWaiting(one);
    try {
      const view = await side.answer(known.token, one.id, known.sequence, one.body);
      setTalk({
        ...known,
        sequence: view.sequence,
        lines: [...known.lines, ...view.lines],
        question: view.question ?? null,
        ended: view.ended,
        filed: view.filed,
      });
      if (view.filed && !known.filed) first?.placed?.tell("filed");
      setWaiting(null);
      setSays("");
      busy.current = false;
    } catch (error) {
      const failed = error instanceof Failed ? error : new Failed("", "offline");
      if (one.body.kind === "nudge") {
        // Only a question whether they are still there; it is not worth a word.
        setWaiting(null);
        busy.current = false;
        return;
      }
      if (failed.passes) {
        // The same answer under the same id: it counts once, however often it arrives.
        setSays(failed.code === "too-many-requests" || failed.code === "busy" ? word("busy") : word("offline"));
        soon(() => void send(known, one));
        return;
      }
      if (failed.code === "gone-on" || failed.code === "ended") {
        // Another tab went on; show what was said there.
        const before = await side.resume().catch(() => null);
        if (before) setTalk(resumed(before));
      }
      setSays(failed.message);
      setWaiting(null);
      busy.current = false;
    }
  };
  const put = (body: Body, shown: string) => {
    if (!talk || busy.current) return;
    busy.current = true;
    setSays("");
    void send(talk, { id: newId(), body, says: shown });
  };
  const change = (turn: string, text: string) => put({ kind: "revise", turn, text, picked: false }, text);
  // The question's own part comes into view once it is there; a tall one from its top.
  const reply = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!typing) reply.current?.scrollIntoView({ block: "nearest" });
  }, [typing, talk?.sequence]);
  // Silence: the server decides what comes of it.
  const nudge = talk?.question?.nudge_seconds ?? 0;
  const heard = useRef(put);
  useEffect(() => {
    heard.current = put;
  });
  useEffect(() => {
    if (nudge === 0) return;
    const timer = setTimeout(() => heard.current({ kind: "nudge" }, ""), nudge * 1000);
    return () => clearTimeout(timer);
  }, [nudge, talk?.sequence]);
  const close = first?.placed?.close;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "Escape" && !event.defaultPrevented) close?.();
      else typesInto(event);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [close]);
  const again = () => {
    if (talk && !talk.ended) side.leave(talk.token, talk.sequence);
    side.forget();
    setTalk(null);
    setSays("");
  };

  if (gone)
    return (
      <main className="page">
        <p className="us">There is nothing to talk about at this address right now.</p>
      </main>
    );
  if (!first) {
    const words = unreached[navigator.language.slice(0, 2)] ?? unreached.en;
    return (
      <main className="page" aria-busy="true">
        {unread && (
          <p className="us" role="status">
            {words}
          </p>
        )}
      </main>
    );
  }
  const privacy = first.privacy && (
    <a className="privacy" href={first.privacy} target="_blank" rel="noopener noreferrer">
      {word("privacy")}
    </a>
  );
  if (!talk) {
    return (
      <main className="page opening">
        {first.placed && <Who placed={first.placed} word={word} />}
        <h1 className="us">{first.say}</h1>
        {/* Nobody sees it; machines fill whatever there is. */}
        <div className="unseen" aria-hidden="true">
          <input ref={trap} name="website" type="text" tabIndex={-1} autoComplete="off" />
        </div>
        <button type="button" className="primary" onClick={() => void begin()}>
          {first.button}
        </button>
        <p role="alert" className="says">
          {says}
        </p>
        {privacy}
      </main>
    );
  }
  const { question } = talk;
  const total = question ? question.done + question.ahead : 0;
  return (
    <main className="page">
      {first.placed && <Who placed={first.placed} word={word} />}
      {talk.test && <p className="trying">You’re trying this out. Nothing will be filed.</p>}
      {question && total > 1 && (
        <progress
          className="hint"
          max={total}
          value={question.done}
          aria-label={word("question").replace("{n}", String(question.done + 1))}
        />
      )}
      <Lines
        lines={talk.lines.slice(0, shown)}
        waiting={waiting?.says ?? null}
        typing={typing}
        word={word}
        media={side.media}
        onChange={waiting === null && !typing ? change : undefined}
      />
      <p role="alert" className="says">
        {says}
      </p>
      {question && !typing && (
        <div ref={reply}>
          <Reply
            key={talk.sequence}
            question={question}
            busy={waiting !== null}
            word={word}
            media={side.media}
            draftKey={`lumbo:form:${talk.token.slice(0, 16)}`}
            onAnswer={put}
          />
        </div>
      )}
      {talk.ended && !typing && <p className="ended">{word("ended")}</p>}
      <button type="button" className="again" onClick={again}>
        {talk.ended ? word("ended_new") : word("start_again")}
      </button>
      {privacy}
    </main>
  );
}

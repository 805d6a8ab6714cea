import { Link, Outlet, useParams } from "@tanstack/react-router";
import { createContext, useContext, useState } from "react";

import { Button, Notice, TextInput, useTitle } from "../../../kit/ui";
import { ReleaseDialog } from "../releases/ReleaseDialog";
import { CollisionDialog } from "./Collision";
import type { DraftState, DraftView } from "./useDraft";
import { useDraft } from "./useDraft";

type Shown = DraftState & { draft: DraftView; dialogue: string; release: () => void };

const Context = createContext<Shown | null>(null);

/** The draft that the stages show. */
export function useShownDraft(): Shown {
  const shown = useContext(Context);
  if (!shown) throw new Error("a stage is shown outside its dialogue");
  return shown;
}

const stage = "rounded-md border border-transparent px-3 py-1 text-sm text-ink/85 hover:text-ink";
const activeStage = { className: "!border-line bg-oat font-semibold" };

export function DialogueScreen() {
  const { dialogue } = useParams({ from: "/frame/dialogues/$dialogue" });
  const state = useDraft(dialogue);
  const [releasing, setReleasing] = useState(false);
  const { draft } = state;
  useTitle(draft?.dialogue.title ?? "Dialogue");
  if (state.error) return <Notice tone="wrong">{state.error.message}</Notice>;
  if (!draft) return <p className="p-4 text-soft">Reading the draft</p>;
  const params = { dialogue };
  return (
    <Context.Provider value={{ ...state, draft, dialogue, release: () => setReleasing(true) }}>
      <div className="flex min-h-12 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-paper px-4">
        <Title title={draft.dialogue.title} onChange={(title) => state.change({ op: "set_title", title })} />
        <span className="text-xs text-soft">{draftWords(draft)}</span>
        <nav aria-label="Stages" className="ml-2 flex gap-1">
          <Link to="/dialogues/$dialogue/brief" params={params} className={stage} activeProps={activeStage}>
            Brief
          </Link>
          <Link
            to="/dialogues/$dialogue"
            params={params}
            className={stage}
            activeOptions={{ exact: true }}
            activeProps={activeStage}
          >
            Outline
          </Link>
          <Link to="/dialogues/$dialogue/scoring" params={params} className={stage} activeProps={activeStage}>
            Scoring
          </Link>
          <Link to="/dialogues/$dialogue/routing" params={params} className={stage} activeProps={activeStage}>
            Routing
          </Link>
          <Link to="/dialogues/$dialogue/placement" params={params} className={stage} activeProps={activeStage}>
            Placement
          </Link>
          <Link to="/dialogues/$dialogue/releases" params={params} className={stage} activeProps={activeStage}>
            Releases
          </Link>
          <Link to="/dialogues/$dialogue/answers" params={params} className={stage} activeProps={activeStage}>
            Answers
          </Link>
        </nav>
        <Button look="primary" className="ml-auto" onClick={() => setReleasing(true)}>
          Release…
        </Button>
      </div>
      {state.collision && <CollisionDialog collision={state.collision} onResolve={state.resolve} />}
      {state.says && (
        <Notice tone="wrong">
          <span className="mr-3">{state.says}</span>
          <Button onClick={state.dismiss}>Close</Button>
        </Notice>
      )}
      {state.notes.length > 0 && (
        <Notice tone="plain">
          <span className="mr-3">{state.notes.join(" ")}</span>
          <Button onClick={state.dismiss}>Close</Button>
        </Notice>
      )}
      {state.saving === "offline" && (
        <Notice tone="watch">
          No connection. Your changes are kept in this window and saved as soon as it is back.
        </Notice>
      )}
      <Outlet />
      <ReleaseDialog open={releasing} onOpenChange={setReleasing} />
    </Context.Provider>
  );
}

function draftWords(draft: DraftView): string {
  if (draft.newest_release === null || draft.newest_release === undefined) return "Draft, never released";
  const changes = draft.changes ?? 0;
  if (changes === 0) return `As release ${draft.newest_release}`;
  return `Draft, ${changes} change${changes === 1 ? "" : "s"} since release ${draft.newest_release}`;
}

function Title({ title, onChange }: { title: string; onChange: (title: string) => void }) {
  const [value, setValue] = useState<string | null>(null);
  const commit = () => {
    if (value?.trim() && value.trim() !== title) onChange(value.trim());
    setValue(null);
  };
  if (value === null) {
    return (
      <h1 className="font-serif text-xl font-semibold">
        <button type="button" title="Change the title" onClick={() => setValue(title)} className="rounded-sm">
          {title}
        </button>
      </h1>
    );
  }
  return (
    <TextInput
      aria-label="Title"
      autoFocus
      maxLength={80}
      className="w-64 font-serif text-lg"
      value={value}
      onChange={(event) => setValue(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") commit();
        if (event.key === "Escape") setValue(null);
      }}
    />
  );
}

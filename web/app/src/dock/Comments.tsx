import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, TextArea } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { commentsQuery, queries } from "../lib/query";
import { ago } from "../lib/time";
import { nameOf } from "../outline/names";

type Comment = Schemas["Comment"];

function useComments(): Comment[] {
  const { dialogue } = useShownDraft();
  return useQuery(commentsQuery(dialogue)).data ?? [];
}

/** How many open comments a row has. */
export function CommentCount({ rowKey }: { rowKey: string }) {
  const open = useComments().filter((comment) => comment.at === rowKey && !comment.resolved_by).length;
  if (open === 0) return null;
  return (
    <span className="rounded-sm bg-amber-wash px-1.5 text-amber">
      {open} comment{open === 1 ? "" : "s"}
    </span>
  );
}

/** A row's comments, and a box for another. */
export function RowComments({ rowKey, focus }: { rowKey: string; focus: boolean }) {
  const { dialogue } = useShownDraft();
  const comments = useComments().filter((comment) => comment.at === rowKey && !comment.resolved_by);
  const [text, setText] = useState("");
  if (comments.length === 0 && !focus) return null;
  const add = async () => {
    if (!text.trim()) return;
    await ask(
      client.POST("/api/dialogues/{dialogue}/comments", {
        params: { path: { dialogue } },
        body: { at: rowKey, says: text },
      }),
    );
    setText("");
    await queries.invalidateQueries({ queryKey: commentsQuery(dialogue).queryKey });
  };
  return (
    <div className="my-2 border-l-2 border-amber pl-3">
      {comments.map((comment) => (
        <OneComment key={comment.id} comment={comment} />
      ))}
      <div className="mt-1 flex items-start gap-2">
        <TextArea
          aria-label="Comment"
          autoFocus={focus}
          placeholder="Say something about this row to the other authors"
          maxLength={2000}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter" && !event.shiftKey) {
              event.preventDefault();
              void add();
            }
          }}
        />
        <Button disabled={!text.trim()} onClick={() => void add()}>
          Comment
        </Button>
      </div>
    </div>
  );
}

function OneComment({ comment }: { comment: Comment }) {
  const { dialogue } = useShownDraft();
  const resolve = async (resolved: boolean) => {
    await ask(
      client.POST("/api/dialogues/{dialogue}/comments/{comment}", {
        params: { path: { dialogue, comment: comment.id } },
        body: { resolved },
      }),
    );
    await queries.invalidateQueries({ queryKey: commentsQuery(dialogue).queryKey });
  };
  return (
    <div className="py-1 text-sm">
      <p className="text-xs text-soft">
        {comment.person}, {ago(comment.made_at)}
        {comment.resolved_by && `, resolved by ${comment.resolved_by}`}
        <Button look="quiet" className="!py-0 !text-xs" onClick={() => void resolve(!comment.resolved_by)}>
          {comment.resolved_by ? "Open again" : "Resolve"}
        </Button>
      </p>
      <p className={clsx("whitespace-pre-wrap", comment.resolved_by && "text-soft")}>{comment.says}</p>
    </div>
  );
}

/** Every comment, open ones first. */
export function Comments({ onGoTo }: { onGoTo: (row: string) => void }) {
  const { draft } = useShownDraft();
  const comments = useComments();
  if (comments.length === 0)
    return (
      <p className="p-4 text-soft">No comment yet. Pick a row and press M to say something about it to the others.</p>
    );
  const ordered = [...comments].sort((a, b) => Number(Boolean(a.resolved_by)) - Number(Boolean(b.resolved_by)));
  return (
    <ul>
      {ordered.map((comment) => (
        <li key={comment.id} className="border-b border-line px-4 py-2">
          <OneComment comment={comment} />
          <Button look="quiet" className="-ml-1.5 !text-xs" onClick={() => onGoTo(comment.at)}>
            {nameOf(draft.dialogue, comment.at.split(":")[1] ?? "")}
          </Button>
        </li>
      ))}
    </ul>
  );
}

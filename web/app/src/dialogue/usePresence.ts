/** Says that this window has the draft open, and learns who else has, what they changed and said. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { ask, client } from "../../../api";
import { commentsQuery, queries } from "../lib/query";
import { useLive } from "../live/useLive";

/** A window that says nothing for 45 seconds counts as closed. */
const EVERY_MS = 20_000;

export function usePresence(dialogue: string, at: string | null, onRevision: (revision: number) => void) {
  const { data, refetch } = useQuery({
    queryKey: ["presence", dialogue, at],
    queryFn: () =>
      ask(client.POST("/api/dialogues/{dialogue}/presence", { params: { path: { dialogue } }, body: { at } })),
    refetchInterval: EVERY_MS,
    placeholderData: keepPreviousData,
    // Who is here matters less than what is being written; the next look tries again.
    retry: false,
  });
  const revision = data?.revision;
  useEffect(() => {
    if (revision !== undefined) onRevision(revision);
  }, [revision, onRevision]);
  useLive(`draft.${dialogue}`, (kind) => {
    void refetch();
    if (kind === "comment" || kind === "all")
      void queries.invalidateQueries({ queryKey: commentsQuery(dialogue).queryKey });
  });
  return data ?? null;
}

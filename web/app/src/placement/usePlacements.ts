/** Placements and what is done with them. Each answer holds the whole row, so that the list is never behind. */
import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { useAttempt } from "../lib/useAttempt";
import type { Form, Placement } from "./words";

type View = Schemas["PlacementView"];
type List = Schemas["PlacementList"];

export const placementsQuery = queryOptions({
  queryKey: ["placements"],
  queryFn: () => ask(client.GET("/api/placements")),
  staleTime: 0,
});

export function usePlacements(dialogue: string) {
  const queries = useQueryClient();
  const { data, error } = useQuery(placementsQuery);
  const { says, setSays, attempt } = useAttempt();
  const sending = useRef<Promise<void>>(Promise.resolve());
  const latest = (id: string) =>
    queries.getQueryData<List>(placementsQuery.queryKey)?.placements.find((one) => one.id === id);
  const keep = (row: View | null) => {
    if (!row) return null;
    queries.setQueryData<List>(placementsQuery.queryKey, (known) => {
      if (!known) return known;
      const there = known.placements.some((one) => one.id === row.id);
      const placements = known.placements.map((one) => (one.id === row.id ? row : one));
      return { ...known, placements: there ? placements : [...placements, row] };
    });
    void queries.invalidateQueries({ queryKey: ["try-address"] });
    return row;
  };
  const path = (placement: string) => ({ params: { path: { placement } } });
  return {
    list: data,
    error,
    says,
    setSays,
    add: async (name: string, form: Form) =>
      keep(
        await attempt(() =>
          ask(
            client.POST("/api/dialogues/{dialogue}/placements", {
              params: { path: { dialogue } },
              body: { name, form },
            }),
          ),
        ),
      ),
    /** Shown at once and sent after the change before it, so that quick ones do not meet each other. */
    change: (row: View, draft: Placement) => {
      keep({ ...row, draft, changed: true });
      const next = sending.current.then(async () => {
        const revision = latest(row.id)?.revision ?? row.revision;
        const answer = await attempt(() =>
          ask(client.POST("/api/placements/{placement}", { ...path(row.id), body: { revision, draft } })),
        );
        if (answer === null) await queries.invalidateQueries({ queryKey: placementsQuery.queryKey });
        // What was written since stays as it is written; only the last answer says what stands there.
        else if (sending.current === next) keep(answer);
        else keep({ ...(latest(row.id) ?? answer), revision: answer.revision });
      });
      sending.current = next;
      return next;
    },
    release: async (row: View, note: string) => {
      await sending.current;
      const revision = latest(row.id)?.revision ?? row.revision;
      return keep(
        await attempt(() =>
          ask(client.POST("/api/placements/{placement}/releases", { ...path(row.id), body: { revision, note } })),
        ),
      );
    },
    act: async (row: View, act: Schemas["PlacementAct"]) => {
      await attempt(() => ask(client.POST("/api/placements/{placement}/act", { ...path(row.id), body: { act } })));
      await queries.invalidateQueries({ queryKey: placementsQuery.queryKey });
      void queries.invalidateQueries({ queryKey: ["try-address"] });
    },
  };
}

export type Placements = ReturnType<typeof usePlacements>;

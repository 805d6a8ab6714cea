/** A scorecard held against past leads: the draft’s, or one that is only looked at. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import type { Card } from "./card";

const LOOK_MS = 90;

/** A value that follows another once it has stopped changing. */
export function useSettled<T>(value: T, after = LOOK_MS): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), after);
    return () => clearTimeout(timer);
  }, [value, after]);
  return settled;
}

export type Counts = Schemas["Counts"];

/** The figures of a card; `look` holds scorecards that are not kept yet, told against the draft. */
export function useBench(
  dialogue: string,
  revision: number,
  card: string | undefined,
  counts: Counts,
  look: Card[] | null,
) {
  const looked = useSettled(look);
  return useQuery({
    queryKey: ["bench", dialogue, revision, card, counts, looked],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/dialogues/{dialogue}/bench", {
          params: { path: { dialogue } },
          body: { card, counts, scorecards: looked, against: looked ? "draft" : "release" },
          signal,
        }),
      ),
    enabled: card !== undefined,
    placeholderData: keepPreviousData,
    staleTime: 30_000,
    gcTime: 30_000,
    retry: (count, error) => error instanceof RequestFailed && error.code === "busy" && count < 5,
  });
}

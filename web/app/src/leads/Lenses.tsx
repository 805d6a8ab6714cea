import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { lensesQuery, queries } from "../lib/query";
import type { LeadFilter } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import type { Look } from "./looks";
import { isPlain, lookText } from "./looks";

type Lens = Schemas["Lens"];

/** Lists that one keeps under a name: what is shown, and what is searched for in it. */
export function Lenses({
  show,
  search,
  look,
  onPick,
}: {
  show: LeadFilter;
  search: string;
  look: Look;
  onPick: (show: LeadFilter, kept: { search: string; look: Look }) => void;
}) {
  const lenses = useQuery(lensesQuery).data ?? [];
  const { says, attempt } = useAttempt();
  const [naming, setNaming] = useState<string | null>(null);
  const [gone, setGone] = useState<Lens | null>(null);
  const asked = lookText(look);
  const shown = lenses.find(
    (lens) => lens.shows === show && lens.search === search && lookText(lens.look ?? {}) === asked,
  );
  const took = (lists: Lens[] | null) => {
    if (lists) queries.setQueryData(lensesQuery.queryKey, lists);
    return lists !== null;
  };
  const keep = async (lens: Lens) => {
    if (!took(await attempt(() => ask(client.POST("/api/lenses", { body: lens }))))) return;
    setNaming(null);
    setGone(null);
  };
  const takeOut = async (lens: Lens) => {
    const params = { path: { lens: lens.id } };
    if (took(await attempt(() => ask(client.DELETE("/api/lenses/{lens}", { params }))))) setGone(lens);
  };
  return (
    <>
      {lenses.map((lens) => (
        <span
          key={lens.id}
          className={clsx("flex items-center border-b-2", lens === shown ? "border-ink" : "border-transparent")}
        >
          <button
            type="button"
            aria-pressed={lens === shown}
            title={lens.search ? `Your list: “${lens.search}”` : "Your list"}
            onClick={() => onPick(lens.shows, { search: lens.search, look: lens.look ?? {} })}
            className={clsx("py-1", lens === shown ? "font-semibold" : "text-soft hover:text-ink")}
          >
            {lens.name}
          </button>
          {lens === shown && (
            <button
              type="button"
              aria-label={`Take out the list ${lens.name}`}
              className="ml-0.5 grid size-6 place-items-center text-soft hover:text-clay"
              onClick={() => void takeOut(lens)}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {(search || !isPlain(look)) && !shown && naming === null && (
        <Button look="quiet" onClick={() => setNaming(search.slice(0, 30))}>
          Keep this list
        </Button>
      )}
      {naming !== null && (
        <form
          className="flex items-center gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            void keep({ id: crypto.randomUUID(), name: naming, shows: show, search, look });
          }}
        >
          <TextInput
            aria-label="Name of the list"
            autoFocus
            required
            maxLength={30}
            className="!w-36 !py-0.5"
            value={naming}
            onChange={(event) => setNaming(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && setNaming(null)}
          />
          <Button type="submit">Keep</Button>
        </form>
      )}
      {gone && (
        <span role="status" className="text-xs">
          {gone.name} is taken out.{" "}
          <Button look="quiet" onClick={() => void keep(gone)}>
            Put it back
          </Button>
        </span>
      )}
      {says && (
        <span role="alert" className="text-xs text-clay">
          {says}
        </span>
      )}
    </>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useCallback, useState } from "react";

import { Select, useTitle } from "../../../kit/ui";
import { queries, requestsQuery } from "../lib/query";
import { ago, due, isLate, stamp } from "../lib/time";
import { useLive } from "../live/useLive";
import { ListRow, ListScreen } from "./ListScreen";
import { RequestPane } from "./RequestPane";

/** What outcomes that are no lead leave behind for somebody, by when it is to be answered. */
export function RequestsScreen() {
  useTitle("Requests");
  const { request } = useParams({ strict: false });
  const navigate = useNavigate();
  const [done, setDone] = useState(false);
  const [search, setSearch] = useState("");
  const { data, error, isPending } = useQuery(requestsQuery(done));
  const needle = search.trim().toLowerCase();
  const rows = (data ?? []).filter((row) =>
    [row.name, row.company, row.words, row.label].some((text) => text?.toLowerCase().includes(needle)),
  );
  useLive("leads", () => {
    void queries.invalidateQueries({ queryKey: ["requests"] });
    if (request) void queries.invalidateQueries({ queryKey: ["request", request] });
  });
  const open = useCallback(
    (id: string, replace = false) => void navigate({ to: "/requests/$request", params: { request: id }, replace }),
    [navigate],
  );
  const late = done ? 0 : (data ?? []).filter((row) => isLate(row.due_at)).length;
  return (
    <ListScreen
      what="requests"
      search={search}
      onSearch={setSearch}
      filter={
        <Select
          aria-label="Which requests"
          value={done ? "done" : "open"}
          onChange={(event) => setDone(event.target.value === "done")}
        >
          <option value="open">to be answered</option>
          <option value="done">done</option>
        </Select>
      }
      ids={rows.map((row) => row.id)}
      open={request}
      onOpen={open}
      error={error}
      pending={isPending}
      empty={
        done
          ? "Nothing was answered yet."
          : "Nothing to answer. Under Routing, an outcome that is no lead can leave a request here."
      }
      more={null}
      head={
        <>
          <th className="w-32">{done ? "Done" : "Answer"}</th>
          <th className="w-56 max-md:w-auto">Who</th>
          <th className="max-md:hidden">In their words</th>
          <th className="w-32 max-md:hidden">Taken by</th>
        </>
      }
      rows={rows.map((row) => {
        const when = row.done_at ? ago(row.done_at) : due(row.due_at);
        return (
          <ListRow key={row.id} picked={row.id === request} onOpen={() => open(row.id)}>
            <td
              className={clsx(
                "whitespace-nowrap figures",
                !row.done_at && isLate(row.due_at) ? "text-clay" : "text-soft",
              )}
              title={`Came ${stamp(row.made_at)}`}
            >
              {when}
            </td>
            <td>
              <button type="button" className="font-semibold hover:underline" onClick={() => open(row.id)}>
                {row.name ?? "No name given"}
              </button>
              <span className="ml-1.5 text-xs text-soft">{row.company ?? row.label}</span>
            </td>
            <td className="font-serif max-md:hidden" title={row.words}>
              {row.words}
            </td>
            <td className="max-md:hidden">{row.mine ? "you" : (row.owner ?? "nobody yet")}</td>
          </ListRow>
        );
      })}
      pane={request && <RequestPane key={request} id={request} />}
      bottom={
        <>
          <span>
            <b>{rows.length.toLocaleString("en-GB")}</b> {done ? "done" : "to be answered"}
          </span>
          {late > 0 && (
            <span>
              <b>{late.toLocaleString("en-GB")}</b> late
            </span>
          )}
        </>
      }
    />
  );
}

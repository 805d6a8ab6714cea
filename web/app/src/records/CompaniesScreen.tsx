import { useInfiniteQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { useCallback, useState } from "react";

import { useTitle } from "../../../kit/ui";
import { companiesQuery, queries } from "../lib/query";
import { ago } from "../lib/time";
import { useRested } from "../lib/useRested";
import { useLive } from "../live/useLive";
import { CompanyPane } from "./CompanyPane";
import { ListRow, ListScreen } from "./ListScreen";
import { leadsWords, standingTone, standingWords } from "./words";

/** Every firm on file, by name; one of them with everything. */
export function CompaniesScreen() {
  useTitle("Companies");
  const { company } = useParams({ strict: false });
  const navigate = useNavigate();
  const [search, setSearch] = useState("");
  const pages = useInfiniteQuery(companiesQuery(useRested(search.trim(), 250)));
  const rows = pages.data?.pages.flatMap((page) => page.companies) ?? [];
  useLive("leads", () => {
    void queries.invalidateQueries({ queryKey: ["companies"] });
    if (company) void queries.invalidateQueries({ queryKey: ["company", company] });
  });
  const open = useCallback(
    (id: string, replace = false) => void navigate({ to: "/companies/$company", params: { company: id }, replace }),
    [navigate],
  );
  return (
    <ListScreen
      what="companies"
      search={search}
      onSearch={setSearch}
      ids={rows.map((row) => row.id)}
      open={company}
      onOpen={open}
      error={pages.error}
      pending={pages.isPending}
      empty="No company is on file yet. Companies come with the first lead of theirs."
      more={pages.hasNextPage ? { fetching: pages.isFetchingNextPage, show: () => void pages.fetchNextPage() } : null}
      head={
        <>
          <th>Name</th>
          <th className="w-32 max-md:hidden">What it is to us</th>
          <th className="w-32">Leads</th>
          <th className="w-28 max-md:hidden">Last filed</th>
          <th className="w-28 max-md:hidden">Looked after by</th>
        </>
      }
      rows={rows.map((row) => (
        <ListRow key={row.id} picked={row.id === company} onOpen={() => open(row.id)}>
          <td>
            <button type="button" className="font-semibold hover:underline" onClick={() => open(row.id)}>
              {row.name ?? row.domain ?? "No name given"}
            </button>
            {row.name && <span className="ml-2 text-xs text-soft">{row.domain}</span>}
          </td>
          <td className={`max-md:hidden ${standingTone[row.standing]}`}>
            {row.standing === "none" ? "" : standingWords[row.standing]}
          </td>
          <td className="figures">{leadsWords(row.leads, row.open)}</td>
          <td className="text-soft figures max-md:hidden">{row.last_at ? ago(row.last_at) : ""}</td>
          <td className="max-md:hidden">{row.owner}</td>
        </ListRow>
      ))}
      pane={company && <CompanyPane key={company} id={company} />}
      bottom={
        <span>
          <b>
            {rows.length.toLocaleString("en-GB")}
            {pages.hasNextPage ? "+" : ""}
          </b>{" "}
          {rows.length === 1 ? "company" : "companies"}
        </span>
      }
    />
  );
}

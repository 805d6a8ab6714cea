import { useInfiniteQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { useCallback, useState } from "react";

import { useTitle } from "../../../kit/ui";
import { contactsQuery, queries } from "../lib/query";
import { ago } from "../lib/time";
import { useRested } from "../lib/useRested";
import { useLive } from "../live/useLive";
import { ContactPane } from "./ContactPane";
import { ListRow, ListScreen } from "./ListScreen";
import { leadsWords, nameOf } from "./words";

/** Everybody on file, by name; one of them with everything. */
export function ContactsScreen() {
  useTitle("Contacts");
  const { contact } = useParams({ strict: false });
  const navigate = useNavigate();
  const [search, setSearch] = useState("");
  const pages = useInfiniteQuery(contactsQuery(useRested(search.trim(), 250)));
  const rows = pages.data?.pages.flatMap((page) => page.contacts) ?? [];
  useLive("leads", () => {
    void queries.invalidateQueries({ queryKey: ["contacts"] });
    if (contact) void queries.invalidateQueries({ queryKey: ["contact", contact] });
  });
  const open = useCallback(
    (id: string, replace = false) => void navigate({ to: "/contacts/$contact", params: { contact: id }, replace }),
    [navigate],
  );
  return (
    <ListScreen
      what="contacts"
      search={search}
      onSearch={setSearch}
      ids={rows.map((row) => row.id)}
      open={contact}
      onOpen={open}
      error={pages.error}
      pending={pages.isPending}
      empty="Nobody is on file yet. Contacts come with their first lead."
      more={pages.hasNextPage ? { fetching: pages.isFetchingNextPage, show: () => void pages.fetchNextPage() } : null}
      head={
        <>
          <th>Name</th>
          <th className="max-md:hidden">Company</th>
          <th className="w-32">Leads</th>
          <th className="w-28 max-md:hidden">Last filed</th>
          <th className="w-28 max-md:hidden">Owner</th>
        </>
      }
      rows={rows.map((row) => (
        <ListRow key={row.id} picked={row.id === contact} onOpen={() => open(row.id)}>
          <td>
            <button type="button" className="font-semibold hover:underline" onClick={() => open(row.id)}>
              {nameOf(row)}
            </button>
            {row.name && <span className="ml-2 text-xs text-soft">{row.email ?? row.phone}</span>}
          </td>
          <td className="max-md:hidden">{row.company}</td>
          <td className="figures">{leadsWords(row.leads, row.open)}</td>
          <td className="text-soft figures max-md:hidden">{row.last_at ? ago(row.last_at) : ""}</td>
          <td className="max-md:hidden">{row.owner}</td>
        </ListRow>
      ))}
      pane={contact && <ContactPane key={contact} id={contact} onGone={() => void navigate({ to: "/contacts" })} />}
      bottom={
        <span>
          <b>
            {rows.length.toLocaleString("en-GB")}
            {pages.hasNextPage ? "+" : ""}
          </b>{" "}
          {rows.length === 1 ? "contact" : "contacts"}
        </span>
      }
    />
  );
}

import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";

import { heldBackQuery, meQuery, tasksQuery } from "../lib/query";
import { isLate } from "../lib/time";

const place = "border-b-2 border-transparent py-1.5 text-sm text-soft hover:text-ink";
const active = { className: "!border-ink !text-ink font-semibold" };

/** The places of the area of leads: whom to call, who they are, where they work. */
export function RecordsNav() {
  const me = useQuery(meQuery).data;
  const works = me?.works_leads ?? false;
  const leads = me?.leads_team ?? false;
  const late = (useQuery(tasksQuery).data ?? []).filter((task) => isLate(task.due_at)).length;
  const waiting = useQuery({ ...heldBackQuery, enabled: leads }).data?.length ?? 0;
  return (
    <nav aria-label="Leads" className="flex h-9 shrink-0 items-center gap-5 border-b border-line bg-paper px-4">
      <Link to="/leads" className={place} activeProps={active}>
        Call list
      </Link>
      <Link to="/requests" className={place} activeProps={active}>
        Requests
      </Link>
      <Link to="/tasks" className={place} activeProps={active}>
        Tasks{late > 0 && <span className="ml-1 text-clay figures">{late}</span>}
      </Link>
      <Link to="/contacts" className={place} activeProps={active}>
        Contacts
      </Link>
      <Link to="/companies" className={place} activeProps={active}>
        Companies
      </Link>
      {leads && (
        <Link to="/held-back" className={place} activeProps={active}>
          Held back{waiting > 0 && <span className="ml-1 text-amber figures">{waiting}</span>}
        </Link>
      )}
      {works && (
        <Link to="/enter-leads" className={`${place} ml-auto`} activeProps={active}>
          Enter leads
        </Link>
      )}
    </nav>
  );
}

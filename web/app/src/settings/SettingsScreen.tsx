import { useQuery } from "@tanstack/react-query";
import { Link, Outlet } from "@tanstack/react-router";

import type { Schemas } from "../../../api";
import { useTitle } from "../../../kit/ui";
import { meQuery } from "../lib/query";

/** The parts of the settings, each with who sees it. */
const parts = [
  { to: "/settings/account", label: "Your account", shows: () => true },
  { to: "/settings/people", label: "People", shows: (me: Schemas["Me"]) => me.administers },
  { to: "/settings/workspace", label: "Workspace", shows: (me: Schemas["Me"]) => me.administers },
  { to: "/settings/destinations", label: "Destinations", shows: (me: Schemas["Me"]) => me.writes_dialogues },
  { to: "/settings/fields", label: "Fields", shows: (me: Schemas["Me"]) => me.writes_dialogues },
  { to: "/settings/domains", label: "E-mail domains", shows: (me: Schemas["Me"]) => me.writes_dialogues },
  { to: "/settings/visitors", label: "Signed-in visitors", shows: (me: Schemas["Me"]) => me.administers },
  { to: "/settings/tokens", label: "API tokens", shows: (me: Schemas["Me"]) => me.administers },
  { to: "/settings/running", label: "Jobs and sizes", shows: (me: Schemas["Me"]) => me.administers },
  { to: "/settings/audit", label: "Audit", shows: (me: Schemas["Me"]) => me.administers },
] as const;

/** One's own account, and what holds for the whole workspace. */
export function SettingsScreen() {
  useTitle("Settings");
  const me = useQuery(meQuery).data;
  const shown = parts.filter((part) => me && part.shows(me));
  return (
    <div className="flex min-h-0 grow max-md:flex-col">
      <nav aria-label="Settings" className="w-48 shrink-0 border-r border-line py-4 max-md:w-auto max-md:border-r-0">
        <ul className="max-md:flex max-md:flex-wrap">
          {shown.map((part) => (
            <li key={part.to}>
              <Link
                to={part.to}
                className="block px-4 py-1 hover:bg-hair"
                activeProps={{ className: "bg-picked font-semibold" }}
              >
                {part.label}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      <div className="flex min-h-0 min-w-0 grow flex-col">
        <Outlet />
      </div>
    </div>
  );
}

import { Link, Outlet } from "@tanstack/react-router";

import { useTitle } from "../../../kit/ui";

const parts = [
  { to: "/settings/fields", label: "Fields" },
  { to: "/settings/domains", label: "E-mail domains" },
  { to: "/settings/visitors", label: "Signed-in visitors" },
] as const;

/** What holds for the whole workspace. */
export function SettingsScreen() {
  useTitle("Settings");
  return (
    <div className="flex min-h-0 grow max-md:flex-col">
      <nav aria-label="Settings" className="w-48 shrink-0 border-r border-line py-4 max-md:w-auto max-md:border-r-0">
        <ul className="max-md:flex max-md:flex-wrap">
          {parts.map((part) => (
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

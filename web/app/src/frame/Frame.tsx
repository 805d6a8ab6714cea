import { useQuery } from "@tanstack/react-query";
import { Link, Outlet, useLocation, useNavigate } from "@tanstack/react-router";
import { clsx } from "clsx";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";

import { ask, client } from "../../../api";
import { meQuery } from "../lib/query";
import { readIn } from "../lib/time";
import { Bell } from "../notices/Bell";
import { faceOf, workspaceFace } from "../people/faces";
import { FindOrDo } from "./FindOrDo";
import { Shortcuts } from "./Shortcuts";
import { useCommands } from "./useCommands";

const area = "flex h-full items-center border-b-2 border-transparent px-0.5 text-on-top/85 hover:text-on-top";
const item = "cursor-pointer rounded-sm px-2 py-1 data-[highlighted]:bg-hair";
const activeArea = { className: "!border-[#e0ab5a] !text-on-top font-medium" };

/** Where the area of leads is. */
const leadPlaces = ["/leads", "/requests", "/contacts", "/companies", "/enter-leads", "/tasks", "/held-back"];

/** A small picture in the top line, where there is one. */
function Face({ source, square = false }: { source: string | null; square?: boolean }) {
  if (!source) return null;
  return <img src={source} alt="" className={clsx("size-6 object-cover", square ? "rounded-sm" : "rounded-full")} />;
}

export function Frame() {
  const me = useQuery(meQuery).data;
  const navigate = useNavigate();
  const [finding, setFinding] = useState(false);
  const [sheet, setSheet] = useState(false);

  const goTo = async (workspace: string) => {
    await ask(client.POST("/api/workspace", { body: { workspace } }));
    // Everything that is on the screen or in memory belongs to the workspace before.
    location.assign("/");
  };
  const signOut = async () => {
    await ask(client.POST("/api/sign-out"));
    location.assign("/sign-in");
  };
  // The area of leads has several places.
  const { pathname } = useLocation();
  const inLeads = leadPlaces.some((place) => pathname.startsWith(place));
  useCommands("everywhere", {
    find: () => setFinding(true),
    shortcuts: () => setSheet(true),
    ...(me?.writes_dialogues ? { dialogues: () => void navigate({ to: "/dialogues" }) } : {}),
    leads: () => void navigate({ to: "/leads" }),
    requests: () => void navigate({ to: "/requests" }),
    contacts: () => void navigate({ to: "/contacts" }),
    companies: () => void navigate({ to: "/companies" }),
    ...(me?.leads_team ? { team: () => void navigate({ to: "/team" }) } : {}),
    settings: () => void navigate({ to: "/settings" }),
    "sign-out": () => void signOut(),
  });
  if (!me) return null;
  readIn(me.zone);
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-11 shrink-0 items-center gap-5 bg-top px-4 text-on-top max-md:gap-3">
        <Link to="/" className="font-serif text-lg font-semibold">
          Lumbo
        </Link>
        <nav aria-label="Areas" className="flex h-full gap-5">
          {me.writes_dialogues && (
            <Link to="/dialogues" className={area} activeProps={activeArea}>
              Dialogues
            </Link>
          )}
          <Link to="/leads" className={clsx(area, inLeads && activeArea.className)}>
            Leads
          </Link>
          {me.leads_team && (
            <Link to="/team" className={area} activeProps={activeArea}>
              Team
            </Link>
          )}
        </nav>
        <button
          type="button"
          onClick={() => setFinding(true)}
          className="ml-auto flex w-52 justify-between rounded-md border border-on-top/35 px-2.5 py-1 text-xs text-on-top/85 hover:border-on-top max-md:w-auto"
        >
          <span>Find or do…</span>
          <span className="max-md:hidden">Ctrl K</span>
        </button>
        <Bell />
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="flex items-center gap-1.5 rounded-sm px-1 text-on-top">
            <Face source={workspaceFace(me.workspace_picture)} square />
            <span className="max-md:hidden">{me.workspace} · </span>
            <Face source={faceOf(me.id, me.picture)} />
            {me.name.split(" ")[0]}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              sideOffset={8}
              className="z-20 min-w-48 rounded-md border border-line bg-paper p-1 text-sm"
            >
              <DropdownMenu.Label className="px-2 py-1 text-xs text-soft">{me.email}</DropdownMenu.Label>
              <DropdownMenu.Item className={item} onSelect={() => void navigate({ to: "/settings/account" })}>
                Your account
              </DropdownMenu.Item>
              {me.writes_dialogues && (
                <DropdownMenu.Item className={item} onSelect={() => void navigate({ to: "/settings" })}>
                  Settings
                </DropdownMenu.Item>
              )}
              <DropdownMenu.Item className={item} onSelect={() => setSheet(true)}>
                Shortcuts
              </DropdownMenu.Item>
              <DropdownMenu.Item className={item} onSelect={() => void signOut()}>
                Sign out
              </DropdownMenu.Item>
              {me.workspaces.length > 1 && (
                <>
                  <DropdownMenu.Separator className="my-1 h-px bg-line" />
                  <DropdownMenu.Label className="px-2 py-1 text-xs text-soft">Workspaces</DropdownMenu.Label>
                  <DropdownMenu.RadioGroup value={me.workspace_id} onValueChange={(to) => void goTo(to)}>
                    {me.workspaces.map((place) => (
                      <DropdownMenu.RadioItem key={place.id} value={place.id} className={`${item} flex gap-2`}>
                        <span className="w-3 text-spruce" aria-hidden>
                          {place.id === me.workspace_id ? "✓" : ""}
                        </span>
                        {place.name}
                      </DropdownMenu.RadioItem>
                    ))}
                  </DropdownMenu.RadioGroup>
                </>
              )}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </header>
      <Outlet />
      <FindOrDo open={finding} onOpenChange={setFinding} />
      <Shortcuts open={sheet} onOpenChange={setSheet} />
    </div>
  );
}

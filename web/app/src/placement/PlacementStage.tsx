import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Notice, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { routingQuery } from "../lib/query";
import { ago } from "../lib/time";
import { PlacementTable } from "./PlacementTable";
import { Preview } from "./Preview";
import { Settings } from "./Settings";
import type { Tried } from "./TryAddress";
import { TryAddress, useTried } from "./TryAddress";
import { usePlacements } from "./usePlacements";
import type { Form } from "./words";
import { formWords, forms, isOnAir, siteOf } from "./words";

type View = Schemas["PlacementView"];

/** Where the dialogue shows, at the left; a tried address and what visitors see, at the right. */
export function PlacementStage() {
  const { draft, dialogue } = useShownDraft();
  const placements = usePlacements(dialogue);
  const routing = useQuery(routingQuery);
  const rows = placements.list?.placements ?? [];
  const own = rows.filter((row) => row.dialogue === dialogue);
  const [chosen, setChosen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const [taken, setTaken] = useState<View | null>(null);
  const [tried, setTried] = useState<Tried | null>(null);
  const row = rows.find((known) => known.id === chosen) ?? own[0] ?? null;
  const shown: Tried = tried ?? { url: exampleOf(row), device: "computer", visitor: "new", language: "" };
  const result = useTried(shown);
  const at = row ? rows.indexOf(row) : -1;
  const pick = (place: number) => setChosen(rows[Math.min(Math.max(place, 0), rows.length - 1)]?.id ?? null);
  useCommands("placement", {
    "next-row": () => pick(at + 1),
    "previous-row": () => pick(at - 1),
    "add-placement": () => setAdding(true),
    "move-up": () => row && void placements.act(row, "up"),
    "move-down": () => row && void placements.act(row, "down"),
    "try-address": () => document.getElementById("try-address")?.focus(),
  });
  const acting = {
    ...placements,
    act: async (one: View, deed: Schemas["PlacementAct"]) => {
      if (deed === "take_out") setTaken(one);
      await placements.act(one, deed);
    },
  };
  const opening = draft.dialogue.opening;
  const language = draft.dialogue.language;
  const seen = placements.list?.pages[0];
  const onAir = own.filter(isOnAir);
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main
          aria-label="Placement"
          className="min-h-0 min-w-0 grow basis-0 overflow-auto bg-paper px-5 py-3 max-lg:flex-none max-lg:basis-auto"
        >
          {placements.error && <Notice tone="wrong">{placements.error.message}</Notice>}
          {placements.says && <Notice tone="wrong">{placements.says}</Notice>}
          {taken && (
            <Notice tone="plain">
              <span className="mr-3">“{taken.draft.name}” was taken out, and is off air.</span>
              <Button
                onClick={() => {
                  void placements.act(taken, "put_back").then(() => setTaken(null));
                }}
              >
                Put it back
              </Button>
            </Notice>
          )}
          {placements.list && rows.length > 0 && (
            <PlacementTable rows={rows} dialogue={dialogue} picked={row?.id ?? null} onPick={setChosen} />
          )}
          {placements.list && rows.length === 0 && (
            <p className="max-w-prose text-sm text-soft">
              Nobody meets this dialogue on a page yet. Add a placement: say on which pages it shows, to whom and when,
              and put one line of script on your site.
            </p>
          )}
          {adding ? (
            <Adding
              onCancel={() => setAdding(false)}
              onAdd={async (name, form) => {
                const made = await placements.add(name, form);
                if (!made) return;
                setAdding(false);
                setChosen(made.id);
              }}
            />
          ) : (
            <Button look="quiet" className="mt-2 !px-0" onClick={() => setAdding(true)}>
              + placement
            </Button>
          )}
          {row &&
            (row.dialogue === dialogue ? (
              <Settings key={row.id} row={row} queues={routing.data?.queues ?? []} placements={acting} />
            ) : (
              <p className="mt-4 text-sm text-soft">
                “{row.draft.name}” belongs to “{row.title}”. It stands here because the order is the workspace’s: of
                several placements that fit a page, the first one shows.
              </p>
            ))}
          {placements.list && <Line line={placements.list.line} pages={placements.list.pages} />}
        </main>
        <aside
          aria-label="What visitors see"
          className="min-h-0 min-w-0 grow basis-0 overflow-auto border-l border-line bg-oat px-5 py-3 max-lg:flex-none max-lg:basis-auto max-lg:border-t max-lg:border-l-0"
        >
          <TryAddress
            tried={shown}
            result={result.data}
            error={result.error}
            picked={row?.id ?? null}
            onTry={setTried}
          />
          {placements.list && <Seen url={shown.url} pages={placements.list.pages} />}
          {row && row.dialogue === dialogue && (
            <Preview
              key={row.id}
              row={row}
              greeting={opening?.say?.[language] ?? ""}
              start={opening?.button?.[language] ?? ""}
            />
          )}
        </aside>
      </div>
      <BottomLine right="J K between placements · Alt ↑ ↓ to move · A to add · T to try">
        <span>
          <b>{own.length}</b> placement{own.length === 1 ? "" : "s"}, <b>{onAir.length}</b> on air
        </span>
        <span>{seen ? `the line was last seen ${ago(seen.at)}` : "the line was not seen on any page yet"}</span>
      </BottomLine>
    </>
  );
}

/** Whether the line was seen on the tried address's site: without it nothing shows there, whatever fits. */
function Seen({ url, pages }: { url: string; pages: Schemas["PageSeen"][] }) {
  const host = siteOf(url);
  if (host === null) return null;
  const there = pages.find((page) => page.page === host || page.page.startsWith(`${host}/`));
  return (
    <p className="mt-2 text-xs text-soft">
      {there
        ? `The line was last seen on ${host} ${ago(there.at)}.`
        : `The line was not seen on ${host} yet: nothing shows there before it is on the page.`}
    </p>
  );
}

/** An address on which a placement may show. */
function exampleOf(row: View | null): string {
  const where = row?.draft.where;
  const site = where?.sites?.[0]?.replace("*.", "www.") ?? "example.com";
  const path = (where?.include?.[0] ?? "/").replace("/**", "").replaceAll("*", "example") || "/";
  return `https://${site}${path.startsWith("/") ? path : "/"}`;
}

function Adding({ onAdd, onCancel }: { onAdd: (name: string, form: Form) => void; onCancel: () => void }) {
  const [name, setName] = useState("");
  const [form, setForm] = useState<Form>("corner");
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2 rounded-md border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        onAdd(name, form);
      }}
    >
      <TextInput
        autoFocus
        onKeyDown={(event) => event.key === "Escape" && onCancel()}
        required
        aria-label="Name of the placement"
        placeholder="Prices pages"
        className="!w-48"
        maxLength={80}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Select aria-label="Form" value={form} onChange={(event) => setForm(event.target.value as Form)}>
        {forms.map((one) => (
          <option key={one} value={one}>
            {formWords[one].does}
          </option>
        ))}
      </Select>
      <Button look="primary" type="submit">
        Add
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </form>
  );
}

/** The one line for one's pages, and where it was seen. */
function Line({ line, pages }: { line: string; pages: Schemas["PageSeen"][] }) {
  const [copied, setCopied] = useState(false);
  return (
    <section aria-label="The line for your pages" className="mt-6 border-t border-line pt-2">
      <div className="flex items-center gap-3">
        <h2 className="text-sm font-semibold">The line for your pages</h2>
        <Button
          look="quiet"
          onClick={() => {
            void navigator.clipboard.writeText(line).then(() => setCopied(true));
          }}
        >
          {copied ? "Copied" : "Copy it"}
        </Button>
      </div>
      <code className="mt-1 block font-mono text-xs break-all">{line}</code>
      <p className="mt-1 text-xs text-soft">
        One line for all of the workspace’s placements; put it into the head of every page.
        {pages.length === 0 && " It was not seen yet: open a page that carries it."}
      </p>
      {pages.length > 0 && (
        <ul aria-label="Pages on which the line was seen" className="mt-1 text-xs text-soft">
          {pages.slice(0, 6).map((page) => (
            <li key={page.page}>
              {page.page} · {ago(page.at)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

import { useQuery } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";

import { Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { releasesQuery } from "../lib/query";
import type { Column, Filter } from "./words";
import { query } from "./words";

const link = "rounded-md border border-line bg-paper px-3 py-1 text-sm font-medium hover:border-soft";

/** What is looked for, which fields are columns, and the table as a file. */
export function Filters({
  filter,
  onFilter,
  columns,
  shown,
  onToggle,
}: {
  filter: Filter;
  onFilter: (filter: Filter) => void;
  columns: Column[];
  shown: Column[];
  onToggle: (id: string) => void;
}) {
  const { dialogue, draft } = useShownDraft();
  const releases = useQuery(releasesQuery(dialogue)).data ?? [];
  const set = (part: Partial<Filter>) => onFilter({ ...filter, ...part });
  const file = `/api/dialogues/${dialogue}/answers`;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1.5 px-4 pt-3 pb-2 text-sm">
      <Select
        aria-label="Which release"
        value={filter.release}
        onChange={(event) => set({ release: event.target.value })}
      >
        <option value="">every release</option>
        {releases.map((release) => (
          <option key={release.id} value={release.number}>
            release {release.number}
          </option>
        ))}
      </Select>
      <Select aria-label="How it ended" value={filter.how} onChange={(event) => set({ how: event.target.value })}>
        <option value="">however it ended</option>
        {draft.dialogue.outcomes?.map((outcome) => (
          <option key={outcome.id} value={`outcome:${outcome.id}`}>
            {outcome.label}
          </option>
        ))}
        <option value="left">left before the end</option>
        <option value="open">still open</option>
      </Select>
      <Select
        aria-label="Leads, others or tests"
        value={filter.lead}
        onChange={(event) => set({ lead: event.target.value as Filter["lead"] })}
      >
        <option value="">leads or not</option>
        <option value="yes">became leads</option>
        <option value="no">no leads</option>
        <option value="tests">our own tests</option>
      </Select>
      <TextInput
        aria-label="Begun on this day or later"
        type="date"
        className="!w-34"
        value={filter.from}
        onChange={(event) => set({ from: event.target.value })}
      />
      <span className="text-soft">to</span>
      <TextInput
        aria-label="Begun on this day or before"
        type="date"
        className="!w-34"
        value={filter.until}
        onChange={(event) => set({ until: event.target.value })}
      />
      <TextInput
        aria-label="A condition that holds"
        placeholder="A condition: Pallets at least 200"
        className="!w-64"
        maxLength={500}
        value={filter.holds}
        onChange={(event) => set({ holds: event.target.value })}
      />
      <TextInput
        aria-label="Words in an answer"
        type="search"
        placeholder="Words in an answer"
        className="!w-40"
        maxLength={500}
        value={filter.search}
        onChange={(event) => set({ search: event.target.value })}
      />
      <span className="ml-auto flex gap-2">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className={link}>
            Columns <span className="text-soft figures">{shown.length}</span>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              sideOffset={4}
              className="z-20 max-h-[70vh] min-w-48 overflow-auto rounded-md border border-line bg-paper p-1 text-sm"
            >
              {columns.map((column) => (
                <DropdownMenu.CheckboxItem
                  key={column.id}
                  checked={shown.some((one) => one.id === column.id)}
                  // The list stays open: one picks several.
                  onSelect={(event) => event.preventDefault()}
                  onCheckedChange={() => onToggle(column.id)}
                  className="flex cursor-pointer gap-2 rounded-sm px-2 py-1 data-[highlighted]:bg-hair"
                >
                  <span className="w-3 text-spruce" aria-hidden>
                    <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
                  </span>
                  {column.label}
                </DropdownMenu.CheckboxItem>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <a className={link} href={`${file}.csv${query(filter)}`} download>
          CSV
        </a>
        <a className={link} href={`${file}.xlsx${query(filter)}`} download>
          Spreadsheet
        </a>
      </span>
    </div>
  );
}

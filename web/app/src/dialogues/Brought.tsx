import { useEffect } from "react";

import type { Schemas } from "../../../api";
import { Labelled, Select } from "../../../kit/ui";
import { typeLabels } from "../outline/names";

type Brought = Schemas["LookedInto"];
type Field = Schemas["Field"];

/** Which of the workspace's fields each field is; empty for one of its own. */
export type Decided = Record<string, string>;

/** What is proposed: the field that it seems to be, else one of its own. */
export const proposed = (brought: Brought): Decided =>
  Object.fromEntries(brought.fields.map((field) => [field.id, field.seems ?? ""]));

/** What a file or a pattern brings along, with each field as one of the workspace's or a new one. */
export function BroughtFields({
  brought,
  ours,
  decided,
  onDecide,
}: {
  brought: Brought;
  ours: Field[];
  decided: Decided;
  onDecide: (decided: Decided) => void;
}) {
  useEffect(() => onDecide(proposed(brought)), [brought, onDecide]);
  const label = (id: string) => ours.find((field) => field.id === id)?.label ?? id;
  const same = brought.fields.filter((field) => decided[field.id]).length;
  return (
    <Labelled
      label="Its fields"
      hint={`${same} of ${brought.fields.length} as fields that you have; the others are made.`}
    >
      {() => (
        <>
          <table className="w-full max-w-2xl border-collapse text-sm">
            <thead className="sr-only">
              <tr>
                <th>Field</th>
                <th>Type</th>
                <th>In this workspace</th>
              </tr>
            </thead>
            <tbody>
              {brought.fields.map((field) => (
                <tr key={field.id} className="border-b border-line [&_td]:py-1">
                  <td className="pr-4">{field.label}</td>
                  <td className="pr-4 text-soft">{typeLabels[field.type]}</td>
                  <td>
                    <Select
                      aria-label={`${field.label} in this workspace`}
                      value={decided[field.id] ?? ""}
                      onChange={(event) => onDecide({ ...decided, [field.id]: event.target.value })}
                    >
                      <option value="">a new field</option>
                      {field.can_be.map((id) => (
                        <option key={id} value={id}>
                          {label(id)}
                        </option>
                      ))}
                    </Select>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {brought.queues.length > 0 && (
            <p className="mt-2 text-sm text-amber">
              Its rules name {brought.queues.length === 1 ? "a queue" : "queues"} that you do not have:{" "}
              {brought.queues.join(", ")}. A release waits until Routing names yours.
            </p>
          )}
          {brought.media > 0 && (
            <p className="mt-2 text-sm text-amber">
              {brought.media === 1 ? "One picture or document does" : `${brought.media} pictures and documents do`} not
              travel in a file. Put them in again where they are missed.
            </p>
          )}
        </>
      )}
    </Labelled>
  );
}

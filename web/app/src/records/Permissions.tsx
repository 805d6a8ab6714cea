import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Select, TextInput } from "../../../kit/ui";
import { contactQuery, queries } from "../lib/query";
import { stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Heading } from "./parts";
import { channelWords, channels, purposeWords, purposes } from "./words";

type Row = Schemas["PermissionRow"];
type Change = Schemas["PermissionChange"];

/** What a contact permitted, by purpose and way, with every word of theirs behind it. */
export function Permissions({ contact, works }: { contact: Schemas["ContactDetail"]; works: boolean }) {
  const { says, attempt } = useAttempt();
  const [adding, setAdding] = useState(false);
  const keep = async (body: Change) => {
    const params = { path: { contact: contact.id } };
    const now = await attempt(() => ask(client.POST("/api/contacts/{contact}/permissions", { params, body })));
    if (!now) return;
    setAdding(false);
    queries.setQueryData(contactQuery(contact.id).queryKey, now);
    void queries.invalidateQueries({ queryKey: ["lead"] });
  };
  const stand = contact.permissions.filter((row) => row.stands);
  const before = contact.permissions.filter((row) => !row.stands);
  return (
    <>
      <Heading>What they permit</Heading>
      {stand.length === 0 && <p className="text-sm text-soft">Nobody asked them, and they have not said.</p>}
      <ul className="text-sm">
        {stand.map((row) => (
          <li key={row.purpose + row.channel} className="flex flex-wrap items-baseline gap-x-2 py-0.5">
            <span className={row.given ? "" : "text-clay"}>
              {row.given ? "" : "no "}
              {channelWords[row.channel]} for {purposeWords[row.purpose]}
            </span>
            <span className="text-xs text-soft">{sourceOf(row)}</span>
            {works && row.given && (
              <Button
                look="quiet"
                className="ml-auto"
                aria-label={`Withdrawn: ${channelWords[row.channel]} for ${purposeWords[row.purpose]}`}
                onClick={() => void keep({ purpose: row.purpose, channel: row.channel, given: false, says: "" })}
              >
                They withdrew it
              </Button>
            )}
          </li>
        ))}
      </ul>
      {before.length > 0 && (
        <details className="mt-0.5 text-xs text-soft">
          <summary className="cursor-pointer">What they said before</summary>
          <ul>
            {before.map((row) => (
              <li key={row.purpose + row.channel + row.at + String(row.given)}>
                {row.given ? "" : "no "}
                {channelWords[row.channel]} for {purposeWords[row.purpose]}, {sourceOf(row)}
              </li>
            ))}
          </ul>
        </details>
      )}
      {works &&
        (adding ? (
          <Add onKeep={keep} onClose={() => setAdding(false)} />
        ) : (
          <Button look="quiet" className="-ml-1.5 text-sm" onClick={() => setAdding(true)}>
            They permitted something…
          </Button>
        ))}
      {says && (
        <p role="alert" className="mt-1 text-sm text-clay">
          {says}
        </p>
      )}
    </>
  );
}

function Add({ onKeep, onClose }: { onKeep: (change: Change) => Promise<void>; onClose: () => void }) {
  const [change, setChange] = useState<Change>({ purpose: "marketing", channel: "mail", given: true, says: "" });
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        void onKeep(change);
      }}
    >
      <Select
        aria-label="In which way"
        value={change.channel}
        onChange={(event) =>
          setChange({ ...change, channel: channels.find((one) => one === event.target.value) ?? "mail" })
        }
      >
        {channels.map((channel) => (
          <option key={channel} value={channel}>
            {channelWords[channel]}
          </option>
        ))}
      </Select>
      <Select
        aria-label="For what"
        value={change.purpose}
        onChange={(event) =>
          setChange({ ...change, purpose: purposes.find((one) => one === event.target.value) ?? "marketing" })
        }
      >
        {purposes.map((purpose) => (
          <option key={purpose} value={purpose}>
            for {purposeWords[purpose]}
          </option>
        ))}
      </Select>
      <TextInput
        aria-label="How they said so"
        placeholder="How they said so: on the phone, at a fair"
        className="!w-64"
        required
        maxLength={200}
        value={change.says ?? ""}
        onChange={(event) => setChange({ ...change, says: event.target.value })}
      />
      <Button type="submit">Keep</Button>
      <Button look="quiet" onClick={onClose}>
        Not now
      </Button>
    </form>
  );
}

function sourceOf(row: Row): string {
  const how = row.dialogue
    ? `in “${row.dialogue}”, wording ${row.wording ?? 1}`
    : [row.says, row.person && `kept by ${row.person}`].filter(Boolean).join(", ");
  return [stamp(row.at), how].filter(Boolean).join(" · ");
}

import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Select } from "../../../kit/ui";
import { contactQuery, queries } from "../lib/query";
import { ago } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Heading } from "./parts";
import { channelWords, channels, preferWords } from "./words";

type Channel = Schemas["Channel"];

/** How a contact wants to be reached, and how not; whoever works leads changes it as they are told. */
export function Reach({ contact, works }: { contact: Schemas["ContactDetail"]; works: boolean }) {
  const { says, attempt } = useAttempt();
  // What was asked for shows at once, and goes back where it could not be kept.
  const [asked, setAsked] = useState<Schemas["ReachChange"] | null>(null);
  const { prefers = null, refuses } = asked ?? contact.reach;
  const keep = async (body: Schemas["ReachChange"]) => {
    setAsked(body);
    const params = { path: { contact: contact.id } };
    const now = await attempt(() => ask(client.POST("/api/contacts/{contact}/reach", { params, body })));
    setAsked((latest) => (latest === body ? null : latest));
    if (!now) return;
    queries.setQueryData(contactQuery(contact.id).queryKey, now);
    void queries.invalidateQueries({ queryKey: ["lead"] });
  };
  const toggle = (channel: Channel) =>
    refuses.includes(channel) ? refuses.filter((known) => known !== channel) : [...refuses, channel];
  return (
    <>
      <Heading>How they want to be reached</Heading>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
        <Select
          aria-label="They prefer"
          className="!py-0.5"
          disabled={!works}
          value={prefers ?? ""}
          onChange={(event) =>
            void keep({ prefers: channels.find((known) => known === event.target.value) ?? null, refuses })
          }
        >
          <option value="">no way over another</option>
          {channels
            .filter((channel) => !refuses.includes(channel))
            .map((channel) => (
              <option key={channel} value={channel}>
                {preferWords[channel]}
              </option>
            ))}
        </Select>
        {channels.map((channel) => (
          <label key={channel} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4"
              disabled={!works}
              checked={refuses.includes(channel)}
              onChange={() => void keep(refusing(prefers, toggle(channel)))}
            />
            no {channelWords[channel]}
          </label>
        ))}
      </div>
      {contact.reach.at && (
        <p className="mt-0.5 text-xs text-soft">
          Kept by {contact.reach.by ?? "somebody who has left"}, {ago(contact.reach.at)}
        </p>
      )}
      {says && (
        <p role="alert" className="mt-1 text-sm text-clay">
          {says}
        </p>
      )}
    </>
  );
}

/** Nobody prefers what they refuse. */
const refusing = (prefers: Channel | null, refuses: Channel[]): Schemas["ReachChange"] => ({
  prefers: prefers && refuses.includes(prefers) ? null : prefers,
  refuses,
});

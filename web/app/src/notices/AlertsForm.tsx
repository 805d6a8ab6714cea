import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Button, Labelled, Select } from "../../../kit/ui";
import { alertsQuery, meQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { playChime } from "./chime";
import type { Alerts } from "./words";

const hours = Array.from({ length: 24 }, (_, hour) => hour);
const two = (hour: number) => `${String(hour).padStart(2, "0")}:00`;

/** How one wants to be told of leads: bands, sound, the desktop, hours. */
export function AlertsForm() {
  const { data: known } = useQuery(alertsQuery);
  // What was ticked here shows at once; what could not be kept goes back.
  const [ticked, setTicked] = useState<Partial<Alerts>>({});
  const mails = useQuery(meQuery).data?.mails ?? false;
  const { says, setSays, attempt } = useAttempt();
  const [done, setDone] = useState(false);
  if (!known) return null;
  const data = { ...known, ...ticked };
  const put = async (part: Partial<Alerts>) => {
    setDone(false);
    setTicked({ ...ticked, ...part });
    const next = { ...data, ...part };
    const kept = await attempt(() => ask(client.POST("/api/alerts", { body: next })).then(() => true));
    if (kept) {
      queries.setQueryData(alertsQuery.queryKey, next);
      setDone(true);
    } else setTicked(ticked);
  };
  const desktop = async (on: boolean) => {
    if (on) {
      if (!("Notification" in window)) return setSays("This browser shows nothing on the desktop.");
      if ((await Notification.requestPermission()) !== "granted") {
        return setSays(
          "The browser does not allow it. Allow notifications for this site in its settings, then try again.",
        );
      }
    }
    await put({ desktop: on });
  };
  return (
    <section id="alerts" aria-labelledby="alerts-head">
      <h2 id="alerts-head" className="font-serif font-semibold">
        How you are told
      </h2>
      <p className="mb-1 text-soft">
        The bell at the top shows everything. Sound and desktop are for what cannot wait.
      </p>
      <Labelled label="Leads" hint="A lead of a lower band only stands in the bell.">
        {(id) => (
          <Select
            id={id}
            value={data.from_rank ?? -1}
            onChange={(event) => void put({ from_rank: Number(event.target.value) })}
          >
            <option value={-1}>Every lead</option>
            <option value={1}>From the second lowest band on</option>
            <option value={2}>From the third lowest band on</option>
          </Select>
        )}
      </Labelled>
      <Labelled label="Sound">
        {(id) => (
          <span className="flex items-center gap-2">
            <input
              id={id}
              type="checkbox"
              checked={data.sound ?? false}
              onChange={(event) => void put({ sound: event.target.checked })}
            />
            <Button look="quiet" onClick={playChime}>
              Hear it
            </Button>
          </span>
        )}
      </Labelled>
      <Labelled label="Desktop" hint="While this window is in the background.">
        {(id) => (
          <input
            id={id}
            type="checkbox"
            checked={data.desktop ?? false}
            onChange={(event) => void desktop(event.target.checked)}
          />
        )}
      </Labelled>
      <Labelled
        label="Mail"
        hint={mails ? "Each notice also comes as a mail, at any hour." : "This server was given no mail server."}
      >
        {(id) => (
          <input
            id={id}
            type="checkbox"
            disabled={!mails}
            checked={(mails && data.mail) ?? false}
            onChange={(event) => void put({ mail: event.target.checked })}
          />
        )}
      </Labelled>
      <Labelled label="Hours" hint="For sound and desktop, of your own zone. The whole day where both are the same.">
        {(id) => (
          <span className="flex items-center gap-1.5">
            <Select
              id={id}
              aria-label="From"
              value={data.from_hour ?? 0}
              onChange={(event) => void put({ from_hour: Number(event.target.value) })}
            >
              {hours.map((hour) => (
                <option key={hour} value={hour}>
                  {two(hour)}
                </option>
              ))}
            </Select>
            to
            <Select
              aria-label="To"
              value={data.until_hour ?? 0}
              onChange={(event) => void put({ until_hour: Number(event.target.value) })}
            >
              {hours.map((hour) => (
                <option key={hour} value={hour}>
                  {two(hour)}
                </option>
              ))}
            </Select>
          </span>
        )}
      </Labelled>
      <p role="status" className="text-sm">
        {says ? <span className="text-clay">{says}</span> : done ? <span className="text-spruce">Kept.</span> : ""}
      </p>
    </section>
  );
}

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Select, TextInput } from "../../../kit/ui";
import { useSettled } from "../scoring/useBench";

export type Tried = {
  url: string;
  device: Schemas["Device"];
  visitor: "new" | "returning" | "filed";
  language: string;
};

/** What shows on a visit as it is written now, and why. */
export function useTried(tried: Tried) {
  const typed = useSettled(tried, 250);
  return useQuery({
    queryKey: ["try-address", typed],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/placements/try", {
          body: {
            url: typed.url,
            device: typed.device,
            language: typed.language || null,
            returning: typed.visitor !== "new",
            filed_days_ago: typed.visitor === "filed" ? 3 : null,
          },
          signal,
        }),
      ),
    enabled: typed.url.trim() !== "",
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
}

/** An address and a visitor, typed by hand. */
export function TryAddress({
  tried,
  result,
  error,
  picked,
  onTry,
}: {
  tried: Tried;
  result: Schemas["TriedVisit"] | undefined;
  error: Error | null;
  picked: string | null;
  onTry: (tried: Tried) => void;
}) {
  return (
    <section aria-label="Try an address">
      <h2 className="text-sm font-semibold">
        Try an address <span className="text-xs font-normal text-soft">as it is written now, released or not</span>
      </h2>
      <TextInput
        id="try-address"
        aria-label="Address of a page"
        placeholder="https://winterlode.example/prices"
        className="mt-2"
        value={tried.url}
        onChange={(event) => onTry({ ...tried, url: event.target.value })}
      />
      <div className="mt-1.5 flex flex-wrap gap-2 text-sm">
        <Select
          aria-label="Device"
          value={tried.device}
          onChange={(event) => onTry({ ...tried, device: event.target.value as Tried["device"] })}
        >
          <option value="computer">on a computer</option>
          <option value="tablet">on a tablet</option>
          <option value="phone">on a phone</option>
        </Select>
        <Select
          aria-label="Visitor"
          value={tried.visitor}
          onChange={(event) => onTry({ ...tried, visitor: event.target.value as Tried["visitor"] })}
        >
          <option value="new">new</option>
          <option value="returning">was here before</option>
          <option value="filed">filed three days ago</option>
        </Select>
        <TextInput
          aria-label="Language of the browser"
          placeholder="language"
          className="!w-24"
          value={tried.language}
          onChange={(event) => onTry({ ...tried, language: event.target.value })}
        />
      </div>
      {error && <p className="mt-2 text-sm text-clay">{error.message}</p>}
      {!error &&
        result?.slots.map((slot) => (
          <div key={slot.slot} className="mt-2">
            {slot.slot !== "floating" && <h3 className="text-xs text-soft">In the text, at “{slot.slot.slice(7)}”</h3>}
            <ol className="text-sm">
              {slot.reasons.map((one) => (
                <Reason key={one.placement} one={one} shown={one.placement === slot.placement} picked={picked} />
              ))}
              {slot.placement === null && <li className="text-soft">Nothing shows here.</li>}
            </ol>
          </div>
        ))}
    </section>
  );
}

function Reason({ one, shown, picked }: { one: Schemas["TriedPlacement"]; shown: boolean; picked: string | null }) {
  return (
    <li
      className={clsx(
        "grid grid-cols-[1.25rem_1fr] py-0.5",
        shown ? "text-spruce" : "text-soft",
        one.placement === picked && !shown && "text-ink",
      )}
    >
      <span aria-hidden>{shown ? "→" : "·"}</span>
      <span>
        <b className="font-semibold">{one.name}</b>
        {one.fits && !shown ? " fits too, and stands below" : `: ${one.why}`}
      </span>
    </li>
  );
}

import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button } from "../../../kit/ui";

type View = Schemas["PlacementView"];

const states = ["closed", "inviting", "open", "away", "error"] as const;
type State = (typeof states)[number];

/** The page's own colours by day and by night; those of the prospect's page. */
const grounds = {
  day: { paper: "#fffdf8", page: "#ffffff", ink: "#1d2b2c", line: "#ded8c9", block: "#ece7da" },
  night: { paper: "#1b2424", page: "#101616", ink: "#ece7da", line: "#36413f", block: "#232c2c" },
};

/** The placement over a simple page, at both widths, in every state. */
export function Preview({ row, greeting, start }: { row: View; greeting: string; start: string }) {
  const [state, setState] = useState<State>("inviting");
  const [light, setLight] = useState<"day" | "night">(row.draft.look?.daylight === "night" ? "night" : "day");
  return (
    <section aria-label="Preview" className="mt-4">
      <div className="flex items-end gap-4">
        <Page row={row} state={state} light={light} phone={false} greeting={greeting} start={start} />
        <Page row={row} state={state} light={light} phone greeting={greeting} start={start} />
      </div>
      <div className="mt-2 flex flex-wrap gap-1">
        {states.map((one) => (
          <Button
            key={one}
            look="quiet"
            aria-pressed={state === one}
            className={pressed(state === one)}
            onClick={() => setState(one)}
          >
            {one}
          </Button>
        ))}
        <span className="w-3" />
        {(["day", "night"] as const).map((one) => (
          <Button
            key={one}
            look="quiet"
            aria-pressed={light === one}
            className={pressed(light === one)}
            onClick={() => setLight(one)}
          >
            {one}
          </Button>
        ))}
      </div>
    </section>
  );
}

const pressed = (is: boolean) => clsx(is && "!text-ink font-semibold");

function Page({
  row: { draft, colours },
  state,
  light,
  phone,
  greeting,
  start,
}: {
  row: View;
  state: State;
  light: "day" | "night";
  phone: boolean;
  greeting: string;
  start: string;
}) {
  const look = draft.look ?? {};
  const ground = grounds[light];
  const scale = phone ? 0.5 : 0.45;
  const accent = light === "day" ? colours?.day : colours?.night;
  const onAccent = light === "day" ? colours?.on_day : colours?.on_night;
  const side = { [look.corner ?? "right"]: (look.from_side ?? 24) * scale, bottom: (look.from_bottom ?? 24) * scale };
  const size = (look.size ?? 56) * (phone ? 0.62 : 0.75);
  const open = ["open", "away", "error"].includes(state);
  const whole = draft.form === "page" || draft.form === "link" || draft.form === "inline";
  const away = Object.values(look.away ?? {})[0];
  const says =
    state === "error"
      ? "We cannot reach this page at the moment. It will try again by itself."
      : state === "away" && away
        ? away
        : greeting;
  const line = Object.values(look.line ?? {})[0];
  return (
    <figure
      aria-label={phone ? "On a phone" : "On a computer"}
      className={clsx(
        "relative shrink-0 overflow-hidden border border-line",
        phone ? "h-[236px] w-[122px] rounded-lg" : "h-[330px] w-[336px]",
      )}
      style={{ background: ground.page }}
    >
      <div className="space-y-2 p-4" aria-hidden>
        <div className="h-2.5 w-2/5" style={{ background: ground.block }} />
        <div className={phone ? "h-14" : "h-20"} style={{ background: ground.block }} />
        <div className="h-1.5" style={{ background: ground.block }} />
        <div className="h-1.5 w-4/5" style={{ background: ground.block }} />
      </div>
      {(open || whole) && (
        <div
          className={clsx(
            "absolute flex flex-col gap-2 overflow-hidden border p-3 font-serif",
            whole || phone ? "inset-0" : draft.form === "pop_up" ? "inset-x-16 inset-y-6" : "h-[280px] w-[190px]",
            draft.form === "inline" && "!inset-x-4 !top-20 !bottom-4",
          )}
          style={{
            ...(whole || phone || draft.form === "pop_up" ? {} : side),
            background: ground.paper,
            color: ground.ink,
            borderColor: ground.line,
            borderRadius: whole || phone ? 0 : Math.min(look.rounding ?? 14, 18),
          }}
        >
          <span className="border-b pb-1 font-sans text-xs font-semibold" style={{ borderColor: ground.line }}>
            {look.picture && (
              <img
                src={`/api/media/${look.picture}`}
                alt=""
                className="mr-1.5 inline-block h-4 w-4 rounded-full object-cover align-text-bottom"
              />
            )}
            {look.name || "Nobody yet"}
          </span>
          <span className={phone ? "text-xs" : "text-sm"}>{says}</span>
          {state !== "error" && (
            <span
              className="self-start rounded-sm px-2 py-1 font-sans text-xs font-semibold"
              style={{ background: accent, color: onAccent }}
            >
              {start}
            </span>
          )}
        </div>
      )}
      {!open && !whole && (
        <>
          {state === "inviting" && line && !phone && (
            <span
              className="absolute max-w-[150px] rounded-md border px-2 py-1.5 font-serif text-xs"
              style={{
                [look.corner ?? "right"]: (look.from_side ?? 24) * scale + size + 8,
                bottom: side.bottom,
                background: ground.paper,
                color: ground.ink,
                borderColor: ground.line,
              }}
            >
              {line}
            </span>
          )}
          {draft.form === "corner" && (
            <span
              aria-hidden
              className="absolute grid place-items-center"
              style={{
                ...side,
                width: size,
                height: size,
                background: colours?.button,
                borderRadius: (look.rounding ?? 14) * 0.75,
              }}
            >
              <span className="block w-2/5 space-y-1">
                <i className="block h-0.5" style={{ background: colours?.on_button }} />
                <i className="block h-0.5" style={{ background: colours?.on_button }} />
                <i className="block h-0.5 w-3/5" style={{ background: colours?.on_button }} />
              </span>
            </span>
          )}
        </>
      )}
    </figure>
  );
}

import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Select } from "../../../kit/ui";
import { leadQuery, queries } from "../lib/query";
import { signed } from "../scoring/words";
import { ScoreLines } from "./ScoreLines";

type Lead = Schemas["LeadDetail"];

/** The score a lead was filed with, what today's card would give, and the rep's word on whether it fits. */
export function WhyTheyQualify({ lead, works }: { lead: Lead; works: boolean }) {
  if (!lead.score) return null;
  return (
    <>
      <ScoreLines score={lead.score} />
      {works && <Fits lead={lead} score={lead.score} />}
      <Today lead={lead.row.id} score={lead.score} />
    </>
  );
}

/** Whether it fits after all, and which criterion misled. */
function Fits({ lead, score }: { lead: Lead; score: Schemas["ScoreResult"] }) {
  const say = useMutation({
    mutationFn: ({ fits, misled }: { fits: boolean | null; misled?: string | null }) =>
      ask(
        client.POST("/api/leads/{lead}/fit", {
          params: { path: { lead: lead.row.id } },
          body: { revision: lead.revision, fits, misled },
        }),
      ),
    onSuccess: (found) => queries.setQueryData(leadQuery(lead.row.id).queryKey, found),
    onError: () => queries.invalidateQueries({ queryKey: leadQuery(lead.row.id).queryKey }),
  });
  const given = score.dimensions.flatMap((dimension) => dimension.criteria);
  const words = (fits: boolean) => (lead.fits === fits ? null : fits);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2 text-sm">
      <span className="text-xs text-soft">After talking to them:</span>
      <Button
        aria-pressed={lead.fits === true}
        className={pressed(lead.fits === true)}
        onClick={() => say.mutate({ fits: words(true) })}
      >
        Fits
      </Button>
      <Button
        aria-pressed={lead.fits === false}
        className={pressed(lead.fits === false)}
        onClick={() => say.mutate({ fits: words(false) })}
      >
        Does not fit
      </Button>
      {lead.fits !== null && lead.fits !== undefined && (
        <label className="flex items-center gap-1.5 text-xs text-soft">
          what misled
          <Select
            value={lead.misled ?? ""}
            onChange={(event) => say.mutate({ fits: lead.fits ?? null, misled: event.target.value || null })}
          >
            <option value="">nothing</option>
            {given.map((criterion) => (
              <option key={criterion.id} value={criterion.id}>
                {criterion.label}
              </option>
            ))}
          </Select>
        </label>
      )}
      {say.error && (
        <p role="alert" className="w-full text-sm text-clay">
          {say.error.message}
        </p>
      )}
    </div>
  );
}

const pressed = (on: boolean) => (on ? "!border-spruce !bg-spruce-wash !text-spruce" : "");

/** What the newest release's card would give, on demand. */
function Today({ lead, score }: { lead: string; score: Schemas["ScoreResult"] }) {
  const [open, setOpen] = useState(false);
  const { data, error } = useQuery({
    queryKey: ["lead-today", lead],
    queryFn: () => ask(client.GET("/api/leads/{lead}/today", { params: { path: { lead } } })),
    enabled: open,
  });
  return (
    <div className="mt-2 text-sm">
      <button type="button" aria-expanded={open} className="text-spruce hover:underline" onClick={() => setOpen(!open)}>
        What would today’s scorecard give?
      </button>
      {open && error && <p className="text-clay">{error.message}</p>}
      {open && data && (
        <p className="mt-1">
          {!data.score
            ? "The dialogue has no scorecard now."
            : data.differs.length === 0 && data.score.band === score.band
              ? "The same."
              : `${data.score.total}, ${data.score.band_label}.`}
        </p>
      )}
      {open && data && data.differs.length > 0 && (
        <ul>
          {data.differs.map((line) => (
            <li key={`${line.label} ${line.ends}`} className="flex justify-between border-b border-line py-1">
              <span>
                {line.label}
                {line.ends && ", what its floor or ceiling takes"}
              </span>
              <span className="figures">
                {line.then === null || line.then === undefined ? "not there" : signed(line.then)} →{" "}
                {line.now === null || line.now === undefined ? "gone" : signed(line.now)}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { stamp } from "../lib/time";
import type { Placements } from "./usePlacements";

/** Lets pages get what is written, under a note; the releases so far, and the link with its code. */
export function Release({ row, placements }: { row: Schemas["PlacementView"]; placements: Placements }) {
  const [note, setNote] = useState("");
  const [code, setCode] = useState(false);
  const { data: releases } = useQuery({
    queryKey: ["placement-releases", row.id, row.release],
    queryFn: () => ask(client.GET("/api/placements/{placement}/releases", { params: { path: { placement: row.id } } })),
  });
  const due = row.changed || row.release === 0;
  const blocked = row.faults.length > 0;
  return (
    <>
      {due && (
        <form
          className="mt-3 flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void placements.release(row, note).then((done) => done && setNote(""));
          }}
        >
          <TextInput
            aria-label="Note of the release"
            placeholder="What is new"
            className="!w-72"
            maxLength={300}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
          <Button look="primary" type="submit" disabled={blocked}>
            {row.release === 0 ? "Release" : `Release ${row.release + 1}`}
          </Button>
          {blocked && <span className="text-xs text-clay">Settle what is marked above first.</span>}
        </form>
      )}
      <p className="mt-3 text-sm">
        <span className="text-xs text-soft">Its own page</span>{" "}
        <a className="break-all text-spruce hover:underline" href={row.link} target="_blank" rel="noreferrer">
          {row.link}
        </a>{" "}
        <Button look="quiet" aria-expanded={code} onClick={() => setCode(!code)}>
          QR code
        </Button>
      </p>
      {code && (
        <p className="mt-1">
          <img
            className="bg-white rounded-md border border-line"
            width={180}
            height={180}
            src={`/api/placements/${row.id}/qr`}
            alt={`QR code of ${row.link}`}
          />
          <a
            className="text-sm text-spruce hover:underline"
            href={`/api/placements/${row.id}/qr`}
            download="qr-code.svg"
          >
            Save it as SVG
          </a>
        </p>
      )}
      {releases && releases.length > 0 && (
        <ol aria-label="Releases of the placement" className="mt-2 text-xs text-soft">
          {releases.slice(0, 5).map((release) => (
            <li key={release.number}>
              {release.number} · {stamp(release.made_at)}
              {release.made_by ? `, ${release.made_by}` : ""}
              {release.note ? `: ${release.note}` : ""}
            </li>
          ))}
        </ol>
      )}
    </>
  );
}

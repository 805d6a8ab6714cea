import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { Dialog } from "radix-ui";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Modal } from "../../../kit/Modal";
import { Button, Notice } from "../../../kit/ui";
import { contactQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { mergeLeadsWords, nameOf, takesWords } from "./words";

type Takes = Schemas["Takes"];

/** Two contacts side by side, field by field, with what would be kept; pressed, they become one. */
export function Merge({
  id,
  name,
  other,
  onClose,
}: {
  /** The one that stays. */
  id: string;
  name: string;
  other: Schemas["AlikeRow"];
  onClose: () => void;
}) {
  const [takes, setTakes] = useState<Record<string, Takes>>({});
  const { says, attempt } = useAttempt();
  const { data, error } = useQuery({
    queryKey: ["merge", id, other.id, takes],
    queryFn: () =>
      ask(
        client.POST("/api/contacts/{contact}/merge/{other}", {
          params: { path: { contact: id, other: other.id } },
          body: { takes },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const merge = async () => {
    const now = await attempt(() =>
      ask(
        client.POST("/api/contacts/{contact}/merge", {
          params: { path: { contact: id } },
          body: { other: other.id, takes },
        }),
      ),
    );
    if (!now) return;
    queries.setQueryData(contactQuery(id).queryKey, now);
    await Promise.all(
      ["contacts", "alike", "company", "leads", "lead"].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    );
    onClose();
  };
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} className="w-[44rem] p-5">
      <Dialog.Title className="font-serif text-lg font-semibold">Make them one</Dialog.Title>
      <p className="mb-3 text-sm text-soft">
        {data ? mergeLeadsWords(data.leads, name) : "Reading both"} It can be undone on the contact.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && (
        <table className="w-full table-fixed text-sm">
          <thead>
            <tr className="border-b border-line text-left text-xs text-soft [&_th]:py-1 [&_th]:pr-3 [&_th]:font-normal">
              <th className="w-28" aria-label="Field" />
              <th>{name}, who stays</th>
              <th>{nameOf(other)}, who goes</th>
              <th className="w-40">Kept</th>
            </tr>
          </thead>
          <tbody>
            {data.lines.map((line) => (
              <tr key={line.field} className="border-b border-hair align-top [&_td]:py-1.5 [&_td]:pr-3">
                <td className="text-soft">{line.label}</td>
                <td className={clsx("break-words", line.keeps === "stays" && "font-semibold")}>{line.stays}</td>
                <td className={clsx("break-words", line.keeps === "goes" && "font-semibold")}>{line.goes}</td>
                <td>
                  {line.stays && line.goes && line.stays !== line.goes ? (
                    <span role="group" aria-label={`Which ${line.label} is kept`} className="flex gap-1">
                      {(["stays", "goes"] as Takes[]).map((from) => (
                        <Button
                          key={from}
                          look="quiet"
                          className={clsx("!px-1.5 !py-0", line.keeps === from && "!bg-spruce-wash")}
                          aria-pressed={line.keeps === from}
                          onClick={() => setTakes({ ...takes, [line.field]: from })}
                        >
                          {takesWords[from]}
                        </Button>
                      ))}
                    </span>
                  ) : (
                    <span className="text-soft">{line.keeps === "both" ? line.shown : ""}</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {says && (
        <p role="alert" className="mt-2 text-sm text-clay">
          {says}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Keep them two</Button>
        <Button look="primary" disabled={!data} onClick={() => void merge()}>
          Make them one
        </Button>
      </div>
    </Modal>
  );
}

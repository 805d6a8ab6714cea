import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { BandMark, Notice } from "../../../kit/ui";
import { Notes, lineWords } from "../dock/Notes";
import { came } from "../leads/words";
import { conversationQuery } from "../lib/query";
import { stamp } from "../lib/time";

/** One conversation as it was held, with the reasons beside every line. */
export function ConversationPane({ dialogue, id }: { dialogue: string; id: string }) {
  const { data, error, isPending } = useQuery(conversationQuery(dialogue, id));
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (isPending) return <p className="p-5 text-soft">Reading the conversation</p>;
  const { row } = data;
  const from = came(data.came);
  return (
    <div className="px-5 py-4">
      <div className="flex items-baseline gap-3">
        <h2 className="font-serif text-lg font-semibold">{stamp(row.started_at)}</h2>
        <span className="text-sm text-soft">release {row.release}</span>
        {row.lead && (
          <Link
            to="/leads/$lead"
            params={{ lead: row.lead }}
            className="ml-auto text-sm whitespace-nowrap text-spruce hover:underline"
          >
            Open the lead
          </Link>
        )}
      </div>
      <p className="mt-0.5 flex flex-wrap gap-x-3 text-sm">
        <span>{row.ended}</span>
        {row.total !== null && row.total !== undefined ? (
          <span className="figures">
            {row.total} points {row.band && <BandMark label={row.band} rank={row.band_rank ?? 0} />}
          </span>
        ) : (
          <span className="text-soft figures">{data.points} points so far</span>
        )}
      </p>
      {from.length > 0 && <p className="mt-0.5 text-xs break-words text-soft">{from.join(" · ")}</p>}
      {row.test && (
        <p className="mt-1 text-sm text-amber">One of your own people tried this. Nothing of it was filed.</p>
      )}
      {row.erased ? (
        <p className="mt-4 text-sm text-soft">
          What was said here was erased. That the conversation took place, and how it ended, stays for the numbers.
        </p>
      ) : (
        <div className="mt-3">
          {data.lines.map((line, place) => (
            // oxlint-disable-next-line react/no-array-index-key -- a conversation never changes its order
            <ReadLine key={place} line={line} />
          ))}
        </div>
      )}
    </div>
  );
}

function ReadLine({ line }: { line: Schemas["MarginLine"] }) {
  const words = lineWords(line.line);
  if (line.who === "you") {
    return (
      <div className="mt-1.5 mb-2.5 flex items-start gap-3">
        <p className="max-w-[60%] shrink-0 rounded-md border border-r-[3px] border-line border-r-ink bg-paper px-2.5 py-1 font-serif break-words whitespace-pre-wrap">
          {words || "(nothing)"}
        </p>
        <Notes notes={line.notes} />
      </div>
    );
  }
  return (
    <div className="mt-2">
      <p
        className={clsx(
          "max-w-[80%] font-serif leading-snug break-words whitespace-pre-wrap",
          line.who === "again" && "text-amber",
          line.line.kind === "link" && "underline",
        )}
      >
        {words}
      </p>
      <Notes notes={line.notes} />
    </div>
  );
}

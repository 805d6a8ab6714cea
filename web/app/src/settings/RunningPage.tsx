import { useQuery } from "@tanstack/react-query";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { queries, runningQuery } from "../lib/query";
import { stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { bytes, kindWords, thingWords, waits } from "./running";

const head = "border-b border-line text-left text-xs text-soft [&_th]:pr-3 [&_th]:pb-1.5 [&_th]:font-normal";
const row = "border-b border-line align-baseline [&_td]:py-1.5 [&_td]:pr-3";
const figure = "text-right tabular-nums";

/** What goes on behind the screens of this workspace: jobs, what was given up, sizes, versions. */
export function RunningPage() {
  const { data, error, isPending, refetch, isFetching } = useQuery(runningQuery);
  const { says, attempt } = useAttempt();
  const again = async (job: string) => {
    await attempt(() => ask(client.POST("/api/running/jobs/{job}/again", { params: { path: { job } } })));
    await queries.invalidateQueries({ queryKey: runningQuery.queryKey });
  };
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <div className="mb-2 flex max-w-4xl items-center">
          <h1 className="font-serif text-lg font-semibold">Jobs and sizes</h1>
          <Button className="ml-auto" disabled={isFetching} onClick={() => void refetch()}>
            Look again
          </Button>
        </div>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {isPending && <p className="text-soft">Counting</p>}
        {data && (
          <div className="max-w-4xl space-y-6">
            <GivenUp jobs={data.parked} onAgain={(job) => void again(job)} />
            <Jobs jobs={data.jobs} />
            <Sizes sizes={data.sizes} />
          </div>
        )}
      </main>
      <BottomLine>
        {data && (
          <span>
            Lumbo {data.version}, PostgreSQL {data.database.split(" ")[0]}, tables at step {data.migration}
          </span>
        )}
      </BottomLine>
    </>
  );
}

/** Jobs that were tried as long as the timetable goes. */
function GivenUp({ jobs, onAgain }: { jobs: Schemas["ParkedJobView"][]; onAgain: (job: string) => void }) {
  return (
    <section aria-labelledby="given-up-head">
      <h2 id="given-up-head" className="mb-1 font-serif font-semibold">
        Given up
      </h2>
      {jobs.length === 0 ? (
        <p className="text-soft">Nothing was given up.</p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr className={head}>
              <th>What</th>
              <th>Why the last attempt failed</th>
              <th className={figure}>Attempts</th>
              <th>Given up</th>
              <th>
                <span className="sr-only">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {jobs.map((job) => (
              <tr key={job.id} className={row}>
                <td>{kindWords(job.kind)}</td>
                <td className="break-words text-clay">{job.last_error ?? "unknown"}</td>
                <td className={figure}>{job.attempts}</td>
                <td className="whitespace-nowrap">{job.given_up_at ? stamp(job.given_up_at) : ""}</td>
                <td className="text-right">
                  <Button onClick={() => onAgain(job.id)}>Run it again</Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Jobs({ jobs }: { jobs: Schemas["JobCountView"][] }) {
  return (
    <section aria-labelledby="jobs-head">
      <h2 id="jobs-head" className="mb-1 font-serif font-semibold">
        Waiting or under way
      </h2>
      {jobs.length === 0 ? (
        <p className="text-soft">No job waits.</p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr className={head}>
              <th>What</th>
              <th className={figure}>Waiting</th>
              <th className={figure}>Failed before</th>
              <th className={figure}>Given up</th>
              <th className={figure}>Overdue by</th>
            </tr>
          </thead>
          <tbody>
            {jobs.map((job) => (
              <tr key={job.kind} className={row}>
                <td>{kindWords(job.kind)}</td>
                <td className={figure}>{job.waiting.toLocaleString()}</td>
                <td className={job.failing > 0 ? `${figure} text-amber` : figure}>{job.failing.toLocaleString()}</td>
                <td className={job.parked > 0 ? `${figure} text-clay` : figure}>{job.parked.toLocaleString()}</td>
                <td className={figure}>{waits(job.oldest)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Sizes({ sizes }: { sizes: Schemas["SizeView"][] }) {
  return (
    <section aria-labelledby="sizes-head">
      <h2 id="sizes-head" className="mb-1 font-serif font-semibold">
        What this workspace holds
      </h2>
      <table className="border-collapse">
        <thead className="sr-only">
          <tr>
            <th>What</th>
            <th>How many</th>
            <th>Size</th>
          </tr>
        </thead>
        <tbody>
          {sizes.map((size) => (
            <tr key={size.what} className="[&_td]:py-0.5 [&_td]:pr-6">
              <td className="text-soft">{thingWords(size.what)}</td>
              <td className={figure}>{size.count.toLocaleString()}</td>
              <td className={figure}>{size.bytes ? bytes(size.bytes) : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

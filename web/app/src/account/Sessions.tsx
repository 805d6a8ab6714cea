import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { profileQuery, queries } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { browser } from "./browser";

/** Where one is signed in. */
export function Sessions({ rows }: { rows: Schemas["SessionView"][] }) {
  const { says, attempt } = useAttempt();
  const endOthers = async () => {
    await attempt(() => ask(client.POST("/api/profile/sessions/end-others")));
    await queries.invalidateQueries({ queryKey: profileQuery.queryKey });
  };
  return (
    <section aria-labelledby="sessions-head">
      <div className="flex items-center">
        <h2 id="sessions-head" className="mb-1 font-serif font-semibold">
          Where you are signed in
        </h2>
        {rows.length > 1 && (
          <Button className="ml-auto" onClick={() => void endOthers()}>
            Sign out everywhere else
          </Button>
        )}
      </div>
      {says && <p className="text-clay">{says}</p>}
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-line text-left text-xs text-soft [&_th]:pb-1 [&_th]:font-normal">
            <th>Browser</th>
            <th>Signed in</th>
            <th>Last used</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={`${row.made_at} ${row.agent}`} className="border-b border-line [&_td]:py-1.5">
              <td>
                {browser(row.agent)}
                {row.this && <span className="text-soft"> (this one)</span>}
              </td>
              <td>{stamp(row.made_at)}</td>
              <td>{row.seen_at ? ago(row.seen_at) : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-xs text-soft">
        A session ends after 12 hours without use, and after 30 days in any case.
      </p>
    </section>
  );
}

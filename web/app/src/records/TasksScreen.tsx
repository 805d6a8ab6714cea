import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Notice, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { meQuery, queries, tasksQuery } from "../lib/query";
import { due, isLate } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { useLive } from "../live/useLive";
import { RecordsNav } from "./RecordsNav";

/** What one owes, by when it is due. */
export function TasksScreen() {
  useTitle("Tasks");
  const { data, error, isPending } = useQuery(tasksQuery);
  const works = useQuery(meQuery).data?.works_leads ?? false;
  const { says, attempt } = useAttempt();
  const again = () => queries.invalidateQueries({ queryKey: tasksQuery.queryKey });
  useLive("leads", () => void again());
  const done = async (task: Schemas["TaskRow"]) => {
    await attempt(() =>
      ask(client.POST("/api/tasks/{task}", { params: { path: { task: task.id } }, body: { done: true } })),
    );
    await again();
  };
  const late = (data ?? []).filter((task) => isLate(task.due_at)).length;
  return (
    <>
      <RecordsNav />
      <main className="min-h-0 grow overflow-auto px-4 py-4">
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {isPending && <p className="text-soft">Looking</p>}
        {data?.length === 0 && <p>Nothing is owed. Tasks are made on a lead.</p>}
        <ul className="max-w-4xl">
          {data?.map((task) => (
            <li key={task.id} className="flex items-center gap-3 border-b border-line py-1.5">
              <input
                type="checkbox"
                className="size-5 shrink-0"
                aria-label={`Done: ${task.says}`}
                checked={false}
                disabled={!works}
                onChange={() => void done(task)}
              />
              <span className="min-w-0 grow break-words">{task.says}</span>
              <Link to="/leads/$lead" params={{ lead: task.lead }} className="text-sm text-spruce hover:underline">
                {[task.name, task.company].filter(Boolean).join(", ") || "the lead"}
              </Link>
              <span
                className={clsx("w-32 text-right text-sm figures", isLate(task.due_at) ? "text-clay" : "text-soft")}
              >
                {due(task.due_at)}
              </span>
            </li>
          ))}
        </ul>
      </main>
      <BottomLine>
        <span>
          <b>{data?.length ?? 0}</b> to do
        </span>
        {late > 0 && (
          <span className="text-clay">
            <b>{late}</b> late
          </span>
        )}
      </BottomLine>
    </>
  );
}

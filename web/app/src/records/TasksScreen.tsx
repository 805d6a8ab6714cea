import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Notice, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { meQuery, queries, tasksQuery } from "../lib/query";
import { due, isLate } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { useLive } from "../live/useLive";
import { RecordsNav } from "./RecordsNav";

type Task = Schemas["TaskRow"];

/** What one owes, by when it is due. */
export function TasksScreen() {
  useTitle("Tasks");
  const { data, error, isPending } = useQuery(tasksQuery);
  const works = useQuery(meQuery).data?.works_leads ?? false;
  const { says, attempt } = useAttempt();
  const again = () => queries.invalidateQueries({ queryKey: tasksQuery.queryKey });
  useLive("leads", () => void again());
  // What was ticked off here stays in sight, so that it can be taken back.
  const [ticked, setTicked] = useState<Task[]>([]);
  const settle = async (task: Task, done: boolean) => {
    const others = (tasks: Task[]) => tasks.filter((one) => one.id !== task.id);
    const show = (as: boolean) => setTicked((tasks) => (as ? [...others(tasks), task] : others(tasks)));
    show(done);
    const settled = await attempt(() =>
      ask(client.POST("/api/tasks/{task}", { params: { path: { task: task.id } }, body: { done } })),
    );
    if (settled === null) show(!done);
    await again();
  };
  const open = (data ?? []).filter((task) => !ticked.some((one) => one.id === task.id));
  const tasks = [...open, ...ticked].toSorted((one, other) => one.due_at.localeCompare(other.due_at));
  const late = open.filter((task) => isLate(task.due_at)).length;
  return (
    <>
      <RecordsNav />
      <main className="min-h-0 grow overflow-auto px-4 py-4">
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {isPending && <p className="text-soft">Looking</p>}
        {data && tasks.length === 0 && <p>Nothing is owed. Tasks are made on a lead.</p>}
        <ul className="max-w-4xl">
          {tasks.map((task) => (
            <li key={task.id} className="flex items-center gap-3 border-b border-line py-1.5">
              <input
                type="checkbox"
                className="size-5 shrink-0"
                aria-label={`Done: ${task.says}`}
                checked={ticked.includes(task)}
                disabled={!works}
                onChange={(event) => void settle(task, event.target.checked)}
              />
              <span className={clsx("min-w-0 grow break-words", ticked.includes(task) && "text-soft line-through")}>
                {task.says}
              </span>
              <Link to="/leads/$lead" params={{ lead: task.lead }} className="text-sm text-spruce hover:underline">
                {[task.name, task.company].filter(Boolean).join(", ") || "the lead"}
              </Link>
              <span
                className={clsx(
                  "w-32 text-right text-sm figures",
                  open.includes(task) && isLate(task.due_at) ? "text-clay" : "text-soft",
                )}
              >
                {due(task.due_at)}
              </span>
            </li>
          ))}
        </ul>
      </main>
      <BottomLine>
        <span>
          <b>{open.length}</b> to do
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

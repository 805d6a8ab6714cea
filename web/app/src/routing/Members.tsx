import { useMutation } from "@tanstack/react-query";
import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { took } from "./kept";

/** Who takes part in a queue, what they have on their hands, and whether they take new leads. */
export function Members({ settings, queue }: { settings: Schemas["RoutingView"]; queue: Schemas["QueueSetting"] }) {
  const put = useMutation({
    mutationFn: ({ person, paused, skills }: { person: string; paused: boolean; skills: string[] }) =>
      ask(client.POST("/api/routing/people/{person}", { params: { path: { person } }, body: { paused, skills } })),
    onSuccess: took,
  });
  const owner = settings.colleagues.find((colleague) => colleague.id === queue.fixed_owner);
  if (queue.picks === "fixed_owner") return <p className="mt-2 text-sm">Every lead is {owner?.name ?? "nobody"}’s.</p>;
  if (queue.members.length === 0) return <p className="mt-2 text-sm text-amber">Nobody takes part: its leads wait.</p>;
  return (
    <>
      <table className="mt-2 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
            <th className="text-left">Member</th>
            <th className="text-right">Weight</th>
            <th className="text-right">Untried</th>
            <th className="text-right">A day</th>
            <th className="text-right">Open</th>
            <th className="pl-4 text-left">Skills</th>
            <th className="text-right">New leads</th>
          </tr>
        </thead>
        <tbody>
          {queue.members.map((member) => {
            const full =
              member.untried_limit !== null &&
              member.untried_limit !== undefined &&
              member.untried >= member.untried_limit;
            return (
              <tr
                key={member.person}
                className={clsx("border-b border-hair [&>td]:py-1", member.paused && "text-soft")}
              >
                <td>{member.name}</td>
                <td className="text-right figures">{member.weight}</td>
                <td className={clsx("text-right figures", full && "text-amber")}>
                  {member.untried}
                  {member.untried_limit ? ` of ${member.untried_limit}` : ""}
                </td>
                <td className="text-right figures">{member.day_limit ? `at most ${member.day_limit}` : "no limit"}</td>
                <td className="text-right figures">{member.open}</td>
                <td className="pl-4">
                  <TextInput
                    aria-label={`Skills of ${member.name}`}
                    placeholder="none"
                    className="!border-transparent !bg-transparent !px-0 !py-0.5 !text-xs hover:!border-line focus:!border-line"
                    key={member.skills.join(", ")}
                    defaultValue={member.skills.join(", ")}
                    onBlur={(event) => {
                      const skills = event.target.value.split(",").map((skill) => skill.trim());
                      if (event.target.value !== member.skills.join(", "))
                        put.mutate({ person: member.person, paused: member.paused, skills: skills.filter(Boolean) });
                    }}
                    onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
                  />
                </td>
                <td className="text-right">
                  <Button
                    look="quiet"
                    className="!py-0"
                    aria-label={member.paused ? `Let ${member.name} take leads again` : `Pause ${member.name}`}
                    onClick={() => put.mutate({ person: member.person, paused: !member.paused, skills: member.skills })}
                  >
                    {member.paused ? "paused: resume" : "pause"}
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {put.error && <p className="mt-1 text-sm text-clay">{put.error.message}</p>}
    </>
  );
}

import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { peopleQuery, queries } from "../lib/query";
import { stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import type { Role } from "./words";
import { roleWords, roles } from "./words";

/** Inviting somebody by a link, and who is invited. */
export function Invitations({ rows, onChange }: { rows: Schemas["InvitationRow"][]; onChange: () => void }) {
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("rep");
  const [made, setMade] = useState<Schemas["Invited"] | null>(null);
  const [copied, setCopied] = useState(false);
  const { says, attempt } = useAttempt();
  const reload = () => queries.invalidateQueries({ queryKey: peopleQuery.queryKey });
  const invite = async () => {
    onChange();
    setCopied(false);
    const found = await attempt(() => ask(client.POST("/api/invitations", { body: { email, role } })));
    setMade(found);
    if (found) setEmail("");
    await reload();
  };
  const withdraw = async (invitation: string) => {
    const path = { invitation };
    await attempt(() => ask(client.DELETE("/api/invitations/{invitation}", { params: { path } })));
    if (made?.id === invitation) setMade(null);
    await reload();
  };
  const link = made ? `${location.origin}/join#${made.secret}` : "";
  return (
    <section className="max-w-4xl" aria-labelledby="invite">
      <h2 id="invite" className="mb-1 font-serif text-lg font-semibold">
        Invite somebody
      </h2>
      <form
        className="max-w-xl"
        onSubmit={(event) => {
          event.preventDefault();
          void invite();
        }}
      >
        <Labelled label="Email">
          {(id) => (
            <TextInput
              id={id}
              type="email"
              required
              autoComplete="off"
              value={email}
              onChange={(event) => setEmail(event.target.value)}
            />
          )}
        </Labelled>
        <Labelled label="Role" hint={roleWords[role].does}>
          {(id) => (
            <Select id={id} value={role} onChange={(event) => setRole(event.target.value as Role)}>
              {roles.map((each) => (
                <option key={each} value={each}>
                  {roleWords[each].label}
                </option>
              ))}
            </Select>
          )}
        </Labelled>
        <div className="pl-[9rem] max-md:pl-0">
          {says && (
            <p role="alert" className="mb-1 text-clay">
              {says}
            </p>
          )}
          <Button type="submit">Invite</Button>
        </div>
      </form>
      {made && (
        <div role="status" className="mt-3 border border-line bg-paper px-4 py-3">
          <p>
            {made.mailed
              ? `A mail with a link is on its way to ${made.email}. This one does the same`
              : `Send this link to ${made.email}. It lets one person in`}
            , once, within a week, and is shown only now.
          </p>
          <p className="mt-1 font-mono text-[12.5px] break-all">{link}</p>
          <div className="mt-2 flex gap-2">
            <Button
              onClick={() => {
                void navigator.clipboard.writeText(link).then(() => setCopied(true));
              }}
            >
              {copied ? "Copied" : "Copy the link"}
            </Button>
            <Button look="quiet" onClick={() => setMade(null)}>
              I have it
            </Button>
          </div>
        </div>
      )}
      {rows.length > 0 && (
        <table className="mt-4 w-full border-collapse">
          <caption className="pb-1 text-left text-xs text-soft">Invited, and not here yet</caption>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id} className="border-t border-line [&_td]:py-1.5 [&_td]:pr-3">
                <td>{row.email}</td>
                <td>{roleWords[row.role].label}</td>
                <td className="text-soft">
                  {stamp(row.made_at)}
                  {row.made_by && `, by ${row.made_by}`}
                </td>
                <td className="text-soft">until {stamp(row.expires_at)}</td>
                <td className="text-right">
                  <Button look="quiet" className="!text-clay" onClick={() => void withdraw(row.id)}>
                    Withdraw
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, client } from "../../../api";
import { useTitle } from "../../../kit/ui";
import { invitationQuery } from "../lib/query";
import { roleWords } from "../people/words";
import { Box, Entrance } from "./Entrance";
import { ownZone, useComingIn } from "./useComingIn";

/** Takes an invitation up. Its secret stands behind “#”, where no server and no log sees it. */
export function Join() {
  useTitle("Join");
  const secret = location.hash.slice(1);
  const invitation = useQuery(invitationQuery(secret));
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState<string | null>(null);
  const { says, setSays, busy, comeIn } = useComingIn();

  if (invitation.isPending) return <p className="p-8 text-soft">Opening the invitation</p>;
  if (invitation.error) {
    const gone = "It may have been used, withdrawn or be more than a week old. Ask whoever sent it for a new one.";
    return (
      <main className="p-8">
        <h1 className="font-serif text-xl">This link does nothing any more</h1>
        <p className="mt-2 max-w-prose">{invitation.error.code === "offline" ? invitation.error.message : gone}</p>
      </main>
    );
  }
  const { workspace, email, role, made_by, known } = invitation.data;
  const submit = async () => {
    const body = { secret, password, ...(known ? {} : { name, zone: ownZone() }), ...(code ? { code } : {}) };
    const failed = await comeIn(() => ask(client.POST("/api/join", { body })), "/");
    if (failed === "second-factor" && code === null) {
      setCode("");
      setSays("");
    }
  };
  return (
    <Entrance
      title={`Join ${workspace}`}
      lead={
        <p>
          {made_by ? `${made_by} invites you` : "You are invited"} as {roleWords[role].a}. You sign in as{" "}
          <b className="font-medium text-ink">{email}</b>.
        </p>
      }
      says={says}
      button={busy ? "Joining" : "Join"}
      busy={busy}
      onSubmit={() => void submit()}
    >
      {/* So that a password keeper knows whose password it is. */}
      <input type="email" autoComplete="username" value={email} readOnly hidden />
      {!known && <Box id="name" label="Your name" autoComplete="name" value={name} onText={setName} />}
      <Box
        id="password"
        label={known ? "Your password" : "A password of your own"}
        {...(known
          ? { hint: "The one you sign in to your other workspaces with." }
          : { hint: "At least 10 characters. A few words in a row are easy to keep." })}
        type="password"
        autoComplete={known ? "current-password" : "new-password"}
        value={password}
        onText={setPassword}
      />
      {code !== null && (
        <Box
          id="code"
          label="Code"
          hint="The six digits that your authenticator shows."
          autoFocus
          value={code}
          onText={setCode}
        />
      )}
    </Entrance>
  );
}

import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Button, useTitle } from "../../../kit/ui";
import { providerQuery, setupQuery } from "../lib/query";
import { Box, Entrance } from "./Entrance";
import { useComingIn } from "./useComingIn";
import { notInWords } from "./words";

/** Where one wanted to go: only a path of our own, since anything else could lead away from Lumbo. */
function wanted(): string {
  const then = new URLSearchParams(location.search).get("then") ?? "/";
  return then.startsWith("/") && !then.startsWith("//") && !then.includes("\\") ? then : "/";
}

export function SignIn() {
  useTitle("Sign in");
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState<string | null>(null);
  const { says, setSays, busy, comeIn } = useComingIn();
  const mails = useQuery(setupQuery).data?.mails ?? false;
  const provider = useQuery(providerQuery).data?.name ?? null;
  const why = notInWords(new URLSearchParams(location.search).get("why"), provider);

  const elsewhere = () =>
    void comeIn(async () => {
      const { address } = await ask(client.POST("/api/sign-in/provider", { body: { then: wanted() } }));
      return address;
    });

  const submit = async () => {
    const body = { email, password, ...(code ? { code } : {}) };
    const failed = await comeIn(() => ask(client.POST("/api/sign-in", { body })), wanted());
    if (failed === "second-factor" && code === null) {
      setCode("");
      setSays("");
    }
    if (failed === "wrong-code") setCode("");
  };

  return (
    <Entrance
      title="Lumbo"
      lead="Dialogues that qualify leads."
      says={says || why}
      button={busy ? "Signing in" : "Sign in"}
      busy={busy}
      onSubmit={() => void submit()}
      below={
        <>
          {provider && (
            <Button className="mb-3 px-4 py-1.5" disabled={busy} onClick={elsewhere}>
              Sign in with {provider}
            </Button>
          )}
          {mails && (
            <Link to="/reset" className="text-spruce hover:underline">
              Forgot your password?
            </Link>
          )}
        </>
      }
    >
      <Box id="email" label="Email" type="email" autoComplete="username" value={email} onText={setEmail} />
      <Box
        id="password"
        label="Password"
        type="password"
        autoComplete="current-password"
        value={password}
        onText={setPassword}
      />
      {code !== null && (
        <Box
          id="code"
          label="Code"
          hint="The six digits that your authenticator shows, or a recovery code."
          autoComplete="one-time-code"
          autoFocus
          value={code}
          onText={setCode}
        />
      )}
    </Entrance>
  );
}

import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import { ask, client } from "../../../api";
import { useTitle } from "../../../kit/ui";
import { resetQuery } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { Box, Entrance } from "./Entrance";

/** A new password: asks for the address, or takes the link of the mail up. Its secret stands behind “#”. */
export function Reset() {
  const secret = location.hash.slice(1);
  return secret ? <Choose secret={secret} /> : <Ask />;
}

function Ask() {
  useTitle("A new password");
  const [email, setEmail] = useState("");
  const [asked, setAsked] = useState(false);
  const [busy, setBusy] = useState(false);
  const { says, attempt } = useAttempt();
  const submit = async () => {
    setBusy(true);
    const done = await attempt(() => ask(client.POST("/api/reset/ask", { body: { email } })).then(() => true));
    setBusy(false);
    setAsked(done === true);
  };
  return (
    <Entrance
      title="A new password"
      lead={
        asked ? (
          <p role="status">If {email} has an account, a mail is on its way there. Its link counts once, for an hour.</p>
        ) : (
          "A mail with a link comes to the address that you sign in with."
        )
      }
      says={says}
      button={busy ? "Asking" : asked ? "Send another one" : "Send the mail"}
      busy={busy}
      onSubmit={() => void submit()}
      below={
        <Link to="/sign-in" className="text-spruce hover:underline">
          Back to signing in
        </Link>
      }
    >
      <Box
        id="email"
        label="Email"
        type="email"
        autoComplete="username"
        value={email}
        onText={(text) => {
          setEmail(text);
          setAsked(false);
        }}
      />
    </Entrance>
  );
}

function Choose({ secret }: { secret: string }) {
  useTitle("A new password");
  const found = useQuery(resetQuery(secret));
  const [password, setPassword] = useState("");
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState(false);
  const { says, attempt } = useAttempt();
  if (found.isPending) return <p className="p-8 text-soft">Opening the link</p>;
  if (found.error) {
    const gone = "It may have been used, or be more than an hour old.";
    return (
      <main className="p-8">
        <h1 className="font-serif text-xl">This link does nothing any more</h1>
        <p className="mt-2 max-w-prose">{found.error.code === "offline" ? found.error.message : gone}</p>
        <p className="mt-2">
          <a className="text-spruce underline" href="/reset">
            Ask for another one
          </a>
        </p>
      </main>
    );
  }
  if (done) {
    return (
      <main className="p-8">
        <h1 className="font-serif text-xl">Your password is changed</h1>
        <p className="mt-2 max-w-prose">You were signed out everywhere. Sign in with the new one.</p>
        <p className="mt-2">
          <a className="text-spruce underline" href="/sign-in">
            Sign in
          </a>
        </p>
      </main>
    );
  }
  const submit = async () => {
    setBusy(true);
    const changed = await attempt(() =>
      ask(client.POST("/api/reset", { body: { secret, password } })).then(() => true),
    );
    setBusy(false);
    setDone(changed === true);
  };
  return (
    <Entrance
      title="A new password"
      lead={
        <p>
          For <b className="font-medium text-ink">{found.data.email}</b>. You are signed out everywhere when you keep
          it.
        </p>
      }
      says={says}
      button={busy ? "Keeping it" : "Keep it"}
      busy={busy}
      onSubmit={() => void submit()}
    >
      <input type="email" autoComplete="username" value={found.data.email} readOnly hidden />
      <Box
        id="password"
        label="A password of your own"
        hint="At least 10 characters. A few words in a row are easy to keep."
        type="password"
        autoComplete="new-password"
        value={password}
        onText={setPassword}
      />
    </Entrance>
  );
}

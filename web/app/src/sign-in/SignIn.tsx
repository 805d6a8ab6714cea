import { useState } from "react";

import { RequestFailed, ask, client } from "../../../api";
import { Button, TextInput, useTitle } from "../../../kit/ui";

export function SignIn() {
  useTitle("Sign in");
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [says, setSays] = useState("");
  const [busy, setBusy] = useState(false);

  const submit = async () => {
    setBusy(true);
    setSays("");
    try {
      await ask(client.POST("/api/sign-in", { body: { email, password } }));
      const then = new URLSearchParams(location.search).get("then") ?? "/";
      // Only a path of our own: anything else could lead away from Lumbo.
      location.assign(then.startsWith("/") && !then.startsWith("//") && !then.includes("\\") ? then : "/");
    } catch (error) {
      setSays(error instanceof RequestFailed ? error.message : "Signing in failed. Try again.");
      setBusy(false);
    }
  };

  return (
    <main className="grid min-h-full place-items-center bg-oat p-4">
      <form
        className="w-80"
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <h1 className="font-serif text-xl font-semibold">Lumbo</h1>
        <p className="mt-1 mb-5 text-soft">Dialogues that qualify leads.</p>
        <label className="block text-xs text-soft" htmlFor="email">
          Email
        </label>
        <TextInput
          id="email"
          type="email"
          autoComplete="username"
          required
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
        <label className="mt-3 block text-xs text-soft" htmlFor="password">
          Password
        </label>
        <TextInput
          id="password"
          type="password"
          autoComplete="current-password"
          required
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <p role="alert" className="mt-3 min-h-5 text-clay">
          {says}
        </p>
        <Button look="primary" type="submit" disabled={busy} className="mt-1 px-4 py-1.5">
          {busy ? "Signing in" : "Sign in"}
        </Button>
      </form>
    </main>
  );
}

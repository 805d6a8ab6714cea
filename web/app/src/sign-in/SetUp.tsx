import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, client } from "../../../api";
import { useTitle } from "../../../kit/ui";
import { ZoneBox } from "../account/ZoneBox";
import { setupQuery } from "../lib/query";
import { Box, Entrance } from "./Entrance";
import { ownZone, useComingIn } from "./useComingIn";

/** Sets up the first workspace, with the code that the server printed in its log. */
export function SetUp() {
  useTitle("Set up a workspace");
  const setup = useQuery(setupQuery);
  const [values, setValues] = useState({ code: "", workspace: "", zone: ownZone(), name: "", email: "", password: "" });
  const { says, busy, comeIn } = useComingIn();
  const put = (part: Partial<typeof values>) => setValues({ ...values, ...part });

  if (setup.isPending) return <p className="p-8 text-soft">Looking whether there is a workspace</p>;
  if (setup.error || !setup.data.wanted) {
    return (
      <main className="p-8">
        <h1 className="font-serif text-xl">
          {setup.error ? "Lumbo does not answer" : "A workspace is set up here already"}
        </h1>
        <p className="mt-2 max-w-prose">
          {setup.error ? setup.error.message : "Sign in, or ask its administrator to invite you. "}{" "}
          <a className="text-spruce underline" href="/sign-in">
            Sign in
          </a>
        </p>
      </main>
    );
  }
  return (
    <Entrance
      title="Set up your workspace"
      lead="It begins empty. The demo, if it is loaded, stays a workspace of its own."
      says={says}
      button={busy ? "Setting up" : "Set it up"}
      busy={busy}
      onSubmit={() => void comeIn(() => ask(client.POST("/api/setup", { body: values })), "/dialogues")}
    >
      <Box
        id="code"
        label="Code"
        hint="The server prints it in its log when it starts."
        autoComplete="off"
        value={values.code}
        onText={(code) => put({ code })}
      />
      <Box
        id="workspace"
        label="Workspace"
        hint="Your firm’s name, or your client’s."
        autoComplete="organization"
        value={values.workspace}
        onText={(workspace) => put({ workspace })}
      />
      <ZoneBox value={values.zone} onZone={(zone) => put({ zone })} />
      <Box id="name" label="Your name" autoComplete="name" value={values.name} onText={(name) => put({ name })} />
      <Box
        id="email"
        label="Your email"
        type="email"
        autoComplete="username"
        value={values.email}
        onText={(email) => put({ email })}
      />
      <Box
        id="password"
        label="Password"
        hint="At least 10 characters. A few words in a row are easy to keep."
        type="password"
        autoComplete="new-password"
        value={values.password}
        onText={(password) => put({ password })}
      />
    </Entrance>
  );
}

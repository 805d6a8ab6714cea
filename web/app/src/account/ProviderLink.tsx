import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { providerLinkQuery, queries } from "../lib/query";
import { stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { notInWords } from "../sign-in/words";
import { PasswordBox } from "./PasswordBox";

/** Linking one's account with the sign-in provider, where the server knows one. */
export function ProviderLink() {
  const link = useQuery(providerLinkQuery).data;
  const [password, setPassword] = useState("");
  const { says, attempt } = useAttempt();
  const why = notInWords(new URLSearchParams(location.search).get("why"), link?.name ?? null);
  if (!link?.name) return null;
  const begin = async () => {
    const found = await attempt(() => ask(client.POST("/api/profile/provider", { body: { password } })));
    if (found) location.assign(found.address);
  };
  const takeBack = async () => {
    const worked = await attempt(async () => {
      await ask(client.POST("/api/profile/provider/off", { body: { password } }));
      return true;
    });
    if (!worked) return;
    setPassword("");
    await queries.invalidateQueries({ queryKey: providerLinkQuery.queryKey });
  };
  return (
    <form
      aria-labelledby="provider-head"
      onSubmit={(event) => {
        event.preventDefault();
        void (link.since ? takeBack() : begin());
      }}
    >
      <h2 id="provider-head" className="mb-1 font-serif font-semibold">
        Signing in with {link.name}
      </h2>
      <p className="mb-2 text-soft">
        {link.since
          ? `Linked since ${stamp(link.since)}. ${link.name} asks for what it asks for; your second factor here is not asked for on top.`
          : `Link your account once, and you can sign in with ${link.name} instead of your password.`}
      </p>
      <PasswordBox label="Your password" value={password} onText={setPassword} />
      <div className="pl-[9rem] max-md:pl-0">
        {(says || why) && (
          <p role="alert" className="mb-1 text-clay">
            {says || why}
          </p>
        )}
        <Button type="submit" {...(link.since ? { look: "warn" as const } : {})}>
          {link.since ? "Take the link back" : `Link with ${link.name}`}
        </Button>
      </div>
    </form>
  );
}

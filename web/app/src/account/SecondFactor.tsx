import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, TextInput } from "../../../kit/ui";
import { profileQuery, queries } from "../lib/query";
import { stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { PasswordBox } from "./PasswordBox";

/** Turning the second factor on and off: a password first, then the picture, then a code of it. */
export function SecondFactor({ known }: { known: Schemas["Profile"] }) {
  const [password, setPassword] = useState("");
  const [made, setMade] = useState<Schemas["NewSecondFactor"] | null>(null);
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<string[] | null>(null);
  const { says, attempt } = useAttempt();
  const on = known.second_factor_since;
  const reload = () => queries.invalidateQueries({ queryKey: profileQuery.queryKey });
  const begin = async () => {
    const found = await attempt(() => ask(client.POST("/api/profile/second-factor", { body: { password } })));
    if (!found) return;
    setMade(found);
    setPassword("");
  };
  const turnOn = async () => {
    const found = await attempt(() => ask(client.POST("/api/profile/second-factor/on", { body: { code } })));
    if (!found) return;
    setCodes(found.codes);
    setMade(null);
    setCode("");
    await reload();
  };
  const turnOff = async () => {
    const worked = await attempt(async () => {
      await ask(client.POST("/api/profile/second-factor/off", { body: { password } }));
      return true;
    });
    if (!worked) return;
    setPassword("");
    setCodes(null);
    await reload();
  };
  const step = made ? turnOn : on ? turnOff : begin;
  return (
    <form
      aria-labelledby="factor-head"
      onSubmit={(event) => {
        event.preventDefault();
        void step();
      }}
    >
      <h2 id="factor-head" className="mb-1 font-serif font-semibold">
        Second factor
      </h2>
      <p className="mb-2 text-soft">
        {on
          ? `Asked for since ${stamp(on)}. ${known.codes_left} recovery codes are left.`
          : "An authenticator on your phone shows six digits; without them nobody signs in as you, even with your password."}
      </p>
      {codes && (
        <div role="status" className="mb-3 border border-line bg-paper px-4 py-3">
          <p>It is on. Keep these codes somewhere else than on the phone: each lets you in once without it.</p>
          <ul className="mt-1 grid grid-cols-2 gap-x-6 font-mono sm:grid-cols-3">
            {codes.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
          <Button className="mt-2" onClick={() => setCodes(null)}>
            I have them
          </Button>
        </div>
      )}
      {made ? (
        <>
          <div className="mb-2 flex flex-wrap items-start gap-4">
            <img
              className="bg-white size-44 border border-line p-2"
              alt="Code to scan with an authenticator"
              src={`data:image/svg+xml,${encodeURIComponent(made.picture)}`}
            />
            <div className="max-w-64">
              <p>Scan this with an authenticator, or type its secret there:</p>
              <p className="mt-1 font-mono text-[12.5px] break-all">{made.secret}</p>
            </div>
          </div>
          <Labelled label="Its code now" hint="Six digits.">
            {(id) => (
              <TextInput
                id={id}
                required
                inputMode="numeric"
                autoComplete="one-time-code"
                className="!w-32"
                value={code}
                onChange={(event) => setCode(event.target.value)}
              />
            )}
          </Labelled>
        </>
      ) : (
        <PasswordBox label="Your password" value={password} onText={setPassword} />
      )}
      <div className="pl-[9rem] max-md:pl-0">
        {says && (
          <p role="alert" className="mb-1 text-clay">
            {says}
          </p>
        )}
        <Button type="submit" {...(on ? { look: "warn" as const } : {})}>
          {made ? "Turn it on" : on ? "Turn it off" : "Set it up"}
        </Button>
        {made && (
          <Button look="quiet" className="ml-2" onClick={() => setMade(null)}>
            Not now
          </Button>
        )}
      </div>
    </form>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, TextInput } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { meQuery, profileQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { AlertsForm } from "../notices/AlertsForm";
import { FaceField } from "../people/FaceField";
import { faceOf } from "../people/faces";
import { PasswordBox } from "./PasswordBox";
import { PasswordForm } from "./PasswordForm";
import { ProviderLink } from "./ProviderLink";
import { SecondFactor } from "./SecondFactor";
import { Sessions } from "./Sessions";
import { ZoneBox } from "./ZoneBox";

/** One's own account, the same in every workspace. */
export function AccountPage() {
  const { data, error, isPending } = useQuery(profileQuery);
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <h1 className="mb-2 font-serif text-lg font-semibold">Your account</h1>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {isPending && <p className="text-soft">Reading your account</p>}
        {data && (
          <div className="max-w-2xl space-y-6">
            <ProfileForm key={`${data.name} ${data.email} ${data.zone ?? ""}`} known={data} />
            <OwnFace />
            <PasswordForm />
            <AlertsForm />
            <SecondFactor known={data} />
            <ProviderLink />
            <Sessions rows={data.sessions} />
          </div>
        )}
      </main>
      <BottomLine>
        <span>Your account is the same in every workspace that you are in.</span>
      </BottomLine>
    </>
  );
}

/** One's own picture. */
function OwnFace() {
  const me = useQuery(meQuery).data;
  if (!me) return null;
  return (
    <FaceField
      hint="Colleagues see it beside your name. PNG, JPEG, GIF or WebP of at most 2 MB; its middle is kept, small and square."
      source={faceOf(me.id, me.picture)}
      onKeep={async (content) => {
        await ask(client.POST("/api/profile/picture", { body: content === null ? {} : { content } }));
        await queries.invalidateQueries({ queryKey: meQuery.queryKey });
      }}
    />
  );
}

function ProfileForm({ known }: { known: Schemas["Profile"] }) {
  const [name, setName] = useState(known.name);
  const [email, setEmail] = useState(known.email);
  const [zone, setZone] = useState(known.zone ?? "");
  const [password, setPassword] = useState("");
  const [kept, setKept] = useState(false);
  const { says, attempt } = useAttempt();
  const moved = email.trim().toLowerCase() !== known.email.toLowerCase();
  const save = async () => {
    const body = { name, email, ...(zone ? { zone } : {}), ...(moved ? { password } : {}) };
    const now = await attempt(() => ask(client.POST("/api/profile", { body })));
    setKept(now !== null);
    if (!now) return;
    queries.setQueryData(profileQuery.queryKey, now);
    await queries.invalidateQueries({ queryKey: meQuery.queryKey });
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Labelled label="Name">
        {(id) => (
          <TextInput
            id={id}
            required
            autoComplete="name"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Labelled>
      <Labelled label="Email" hint="You sign in with it.">
        {(id) => (
          <TextInput
            id={id}
            type="email"
            required
            autoComplete="username"
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        )}
      </Labelled>
      {moved && (
        <PasswordBox
          label="Your password"
          hint="It is asked for where the address changes."
          value={password}
          onText={setPassword}
        />
      )}
      <Labelled label="Time zone" hint="Moments are shown in it. Leave it empty to follow this browser.">
        {(id) => <ZoneBox bare id={id} value={zone} onZone={setZone} />}
      </Labelled>
      <div className="pl-[9rem] max-md:pl-0" role="status">
        {says && <p className="mb-1 text-clay">{says}</p>}
        <Button look="primary" type="submit">
          Save
        </Button>
        {kept && <span className="ml-3 text-spruce">Saved</span>}
      </div>
    </form>
  );
}

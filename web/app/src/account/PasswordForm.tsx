import { useState } from "react";

import { ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { profileQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { PasswordBox } from "./PasswordBox";

/** Another password; the other sessions end with it. */
export function PasswordForm() {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const [kept, setKept] = useState(false);
  const { says, attempt } = useAttempt();
  const save = async () => {
    const worked = await attempt(async () => {
      await ask(client.POST("/api/profile/password", { body: { old, new: fresh } }));
      return true;
    });
    setKept(worked !== null);
    if (!worked) return;
    setOld("");
    setFresh("");
    await queries.invalidateQueries({ queryKey: profileQuery.queryKey });
  };
  return (
    <form
      aria-labelledby="password-head"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <h2 id="password-head" className="mb-1 font-serif font-semibold">
        Password
      </h2>
      <PasswordBox label="The one you have" value={old} onText={setOld} />
      <PasswordBox
        label="A new one"
        hint="At least 10 characters. A few words in a row are easy to keep."
        fresh
        value={fresh}
        onText={setFresh}
      />
      <div className="pl-[9rem] max-md:pl-0" role="status">
        {says && <p className="mb-1 text-clay">{says}</p>}
        <Button type="submit">Change the password</Button>
        {kept && <span className="ml-3 text-spruce">Changed. You are signed out everywhere else.</span>}
      </div>
    </form>
  );
}

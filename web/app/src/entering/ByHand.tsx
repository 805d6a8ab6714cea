import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useAttempt } from "../lib/useAttempt";
import type { Said } from "./About";
import { About, nothingSaid } from "./About";
import type { Dialogue, Form } from "./words";

/** One lead, typed: each answer is read as a reply would be. */
export function ByHand({ form, dialogue }: { form: Form; dialogue: Dialogue }) {
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [said, setSaid] = useState<Said>({ ...nothingSaid, tells: true });
  const [busy, setBusy] = useState(false);
  const { says, attempt } = useAttempt();
  const navigate = useNavigate();
  const submit = async () => {
    setBusy(true);
    const { source, ground, owner, tells } = said;
    const about = { dialogue: dialogue.id, source, ground, tells, ...(owner ? { owner } : {}) };
    const entered = await attempt(() => ask(client.POST("/api/imports/hand", { body: { about, answers } })));
    setBusy(false);
    if (entered) void navigate({ to: "/leads/$lead", params: { lead: entered.lead } });
  };
  const set = (key: string, text: string) => setAnswers({ ...answers, [key]: text });
  return (
    <form
      className="max-w-2xl"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <h2 className="mt-4 mb-1 font-serif font-semibold">What is known</h2>
      {dialogue.fields.map((field) => (
        <Labelled key={field.key} label={field.label}>
          {(id) =>
            field.type === "choice" ? (
              <Select id={id} value={answers[field.key] ?? ""} onChange={(event) => set(field.key, event.target.value)}>
                <option value="">not known</option>
                {field.options.map((option) => (
                  <option key={option.key} value={option.label}>
                    {option.label}
                  </option>
                ))}
              </Select>
            ) : (
              <TextInput
                id={id}
                maxLength={2_000}
                placeholder="not known"
                value={answers[field.key] ?? ""}
                onChange={(event) => set(field.key, event.target.value)}
              />
            )
          }
        </Labelled>
      ))}
      <h2 className="mt-4 mb-1 font-serif font-semibold">About it</h2>
      <About form={form} said={said} onChange={setSaid} />
      {says && (
        <p role="alert" className="mt-2 text-clay">
          {says}
        </p>
      )}
      <Button look="primary" type="submit" className="mt-3" disabled={busy}>
        {busy ? "Filing" : "File the lead"}
      </Button>
    </form>
  );
}

/** Mails that people write from a lead. */
import { ask, client } from "../../../api";

/** A mail as it is written; its id is made with it, so that the same one asked for twice leaves once. */
export type Letter = { id: string; subject: string; body: string };

export const freshLetter = (): Letter => ({ id: crypto.randomUUID(), subject: "", body: "" });

export const writeMail = (lead: string, letter: Letter) =>
  ask(client.POST("/api/leads/{lead}/mails", { params: { path: { lead } }, body: letter }));

/** Working a lead: every step goes through here, so that all of them say what failed in one place. */
import { useState } from "react";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import { leadQuery, queries, tagsQuery, tasksQuery } from "../lib/query";
import { writeMail } from "./mails";
import type { CallOutcome, Status } from "./words";

export type Details = { reason?: string; amount?: string; currency?: string; later_on?: string };
type Lead = Schemas["LeadDetail"];

export function useWork(lead: Lead | undefined, done: () => void) {
  const [says, setSays] = useState("");
  // What is being written about each lead: looking at another one loses nothing.
  const [notes, setNotes] = useState<Record<string, string>>({});
  const note = (lead && notes[lead.row.id]) ?? "";
  const setNote = (text: string) => {
    if (lead) setNotes((known) => ({ ...known, [lead.row.id]: text }));
  };
  const written = note.trim();
  /** Gives true where it was done. */
  const act = async (what: (id: string, revision: number) => Promise<Lead>): Promise<boolean> => {
    if (!lead) return false;
    setSays("");
    const id = lead.row.id;
    try {
      queries.setQueryData(leadQuery(id).queryKey, await what(id, lead.revision));
      done();
      await queries.invalidateQueries({ queryKey: ["leads"] });
      return true;
    } catch (failure) {
      if (!(failure instanceof RequestFailed)) throw failure;
      setSays(failure.message);
      if (failure.code === "conflict" || failure.code === "not-found") {
        done();
        await queries.refetchQueries({ queryKey: leadQuery(id).queryKey });
      }
      return false;
    }
  };
  const at = (id: string) => ({ params: { path: { lead: id } } });
  return {
    says,
    note,
    setNote,
    say: (status: Status, details: Details = {}) =>
      act((id, revision) =>
        ask(client.POST("/api/leads/{lead}/outcome", { ...at(id), body: { revision, status, ...details } })),
      ),
    call: async (outcome: CallOutcome) => {
      const body = (revision: number) => ({ revision, outcome, ...(written ? { note: written } : {}) });
      const done = await act((id, revision) =>
        ask(client.POST("/api/leads/{lead}/calls", { ...at(id), body: body(revision) })),
      );
      if (done) setNote("");
    },
    next: (when: Date) =>
      act((id, revision) =>
        ask(client.POST("/api/leads/{lead}/next", { ...at(id), body: { revision, at: when.toISOString() } })),
      ),
    addTask: (body: { says: string; due_at: string; person: string }) =>
      act(async (id) => {
        const lead = await ask(client.POST("/api/leads/{lead}/tasks", { ...at(id), body }));
        await queries.invalidateQueries({ queryKey: tasksQuery.queryKey });
        return lead;
      }),
    settleTask: (task: string, done: boolean) =>
      act(async (id) => {
        await ask(client.POST("/api/tasks/{task}", { params: { path: { task } }, body: { done } }));
        await queries.invalidateQueries({ queryKey: tasksQuery.queryKey });
        return ask(client.GET("/api/leads/{lead}", at(id)));
      }),
    back: () => act((id) => ask(client.POST("/api/leads/{lead}/back", at(id)))),
    tag: async (tag: string, on: boolean) => {
      const done = await act((id) => ask(client.POST("/api/leads/{lead}/tags", { ...at(id), body: { tag, on } })));
      if (done) await queries.invalidateQueries({ queryKey: tagsQuery.queryKey });
      return done;
    },
    write: (letter: { id: string; subject: string; body: string }) => act((id) => writeMail(id, letter)),
    takeMailBack: (mail: string) =>
      act((id) => ask(client.POST("/api/leads/{lead}/mails/{mail}/back", { params: { path: { lead: id, mail } } }))),
    keepNote: async () => {
      if (!written) return;
      const done = await act((id) =>
        ask(client.POST("/api/leads/{lead}/notes", { ...at(id), body: { text: written } })),
      );
      if (done) setNote("");
    },
    give: (to: string, note: string) =>
      act((id, revision) =>
        ask(client.POST("/api/leads/{lead}/owner", { ...at(id), body: { revision, to, ...(note ? { note } : {}) } })),
      ),
  };
}

export type Work = ReturnType<typeof useWork>;

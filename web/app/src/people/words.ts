/** Words of the rooms of people and of what was done. */
import type { Schemas } from "../../../api";

export type Role = Schemas["Role"];

type RoleWords = { label: string; a: string; does: string };

/** Each role with what it may do, in the order in which they are offered. */
export const roleWords: Record<Role, RoleWords> = {
  administrator: {
    label: "Administrator",
    a: "an administrator",
    does: "Everything, and people, secrets and the audit.",
  },
  author: { label: "Author", a: "an author", does: "Writes and releases dialogues, reads every lead." },
  rep_lead: { label: "Sales lead", a: "a sales lead", does: "Works every lead, or those of the own team." },
  rep: { label: "Rep", a: "a rep", does: "Works own leads and those of own queues." },
  viewer: { label: "Viewer", a: "a viewer", does: "Reads every lead, changes nothing." },
};

export const roles = Object.keys(roleWords) as Role[];

/** What was done, as the audit says it behind a name: “Edda Quill released …”. */
export const auditWords: Record<Schemas["Audited"], string> = {
  signed_in: "signed in",
  sign_in_refused: "was refused at sign-in",
  password_changed: "changed the password",
  second_factor_changed: "changed the second factor",
  provider_linked: "changed the link with the sign-in provider",
  lead_seen: "looked at a lead",
  conversation_seen: "read a conversation",
  contact_seen: "looked at a contact",
  record_changed: "changed by hand",
  erased: "erased",
  exported: "took out data",
  settings_changed: "changed settings",
  secret_changed: "changed secrets",
  released: "released",
  queue_changed: "changed a queue",
  invited: "invited",
  joined: "joined",
  role_changed: "changed a role",
  access_changed: "changed access",
  shared_out: "shared out leads",
  records_entered: "entered leads, or took them out again",
  job_run_again: "had a job run again that was given up",
};

export const audited = Object.keys(auditWords) as Schemas["Audited"][];

-- Tags on contacts; what people permitted and withdrew; saved replies, and mails that people write from leads.
alter table contacts add column tags text[] not null default '{}';

create table permissions (
  workspace_id uuid not null references workspaces (id),
  id uuid not null,
  contact_id uuid not null,
  purpose text not null check (purpose in ('enquiry', 'marketing')),
  channel text not null check (channel in ('call', 'mail', 'text')),
  given boolean not null,
  -- Of a conversation: its field, and the version of the wording that was shown.
  conversation_id uuid,
  field_id text,
  wording integer,
  -- Of a person here: who, and on what ground.
  person_id uuid,
  says text not null default '',
  at timestamptz not null,
  primary key (workspace_id, id),
  foreign key (workspace_id, contact_id) references contacts (workspace_id, id) on delete cascade,
  foreign key (workspace_id, person_id) references people (workspace_id, id),
  check ((conversation_id is null) <> (person_id is null))
);
create index permissions_contact on permissions (workspace_id, contact_id, at);
-- What a conversation says to one consent is corrected within it.
create unique index permissions_conversation on permissions (workspace_id, conversation_id, field_id, channel);

create table saved_replies (
  workspace_id uuid not null references workspaces (id),
  id uuid not null,
  name text not null,
  subject text not null,
  body text not null,
  revision bigint not null default 1,
  changed_by uuid not null,
  changed_at timestamptz not null,
  primary key (workspace_id, id),
  foreign key (workspace_id, changed_by) references people (workspace_id, id)
);
create unique index saved_replies_name on saved_replies (workspace_id, lower(name));

create table mails (
  workspace_id uuid not null references workspaces (id),
  -- Given by whoever writes it: the same mail asked for twice leaves once.
  id uuid not null,
  lead_id uuid not null,
  person_id uuid not null,
  recipient text not null,
  subject text not null,
  body text not null,
  state text not null default 'waiting' check (state in ('waiting', 'sent', 'refused', 'taken_back')),
  -- What the mail server said, where it refused it.
  answer text not null default '',
  made_at timestamptz not null,
  leaves_at timestamptz not null,
  ended_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, lead_id) references leads (workspace_id, id) on delete cascade,
  foreign key (workspace_id, person_id) references people (workspace_id, id)
);
create index mails_lead on mails (workspace_id, lead_id, made_at);

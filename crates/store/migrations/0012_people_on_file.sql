-- Who leaves before the end, and can be reached, becomes a lead marked unfinished; the question that was left open.
alter table lead_snapshots add column left_at text;
alter table leads add column unfinished boolean not null default false;
create index leads_unfinished on leads (workspace_id, filed_at) where unfinished and not closed;

-- Every conversation of a dialogue, the newest first.
create index conversations_dialogue on conversations (workspace_id, dialogue_id, started_at desc, id desc);
create index conversations_subject on conversations (workspace_id, subject) where subject is not null;

-- What a firm is to us, and who looks after it.
alter table companies
  add column standing text not null default 'none'
    check (standing in ('none', 'customer', 'partner', 'competitor', 'do_not_contact')),
  add column owner_id uuid,
  add foreign key (workspace_id, owner_id) references people (workspace_id, id);
create index leads_company on leads (workspace_id, company_id, filed_at) where company_id is not null;

-- Contacts and companies are listed by name.
alter table contacts add column sorted text generated always as (lower(coalesce(name, email, phone, ''))) stored;
create index contacts_sorted on contacts (workspace_id, sorted, id);
alter table companies add column sorted text generated always as (lower(coalesce(name, domain, ''))) stored;
create index companies_sorted on companies (workspace_id, sorted, id);

-- Erasing blanks words and values, and keeps what the numbers need.
alter table contacts add column erased_at timestamptz;
alter table conversations add column erased_at timestamptz;
alter table leads add column erased_at timestamptz;
-- How long a workspace keeps what it was told.
alter table workspaces
  add column keep_unreached_days integer not null default 30 check (keep_unreached_days between 1 and 3650),
  add column keep_unfinished_days integer not null default 90 check (keep_unfinished_days between 1 and 3650),
  add column keep_lead_months integer not null default 24 check (keep_lead_months between 1 and 120);
-- What has had its time is found by when it was last touched.
create index conversations_kept on conversations (workspace_id, last_at) where erased_at is null;
create index leads_kept on leads (workspace_id, changed_at) where erased_at is null;

-- What an outcome that is no lead leaves behind for somebody: never scored, never counted as a lead.
create table requests (
  workspace_id uuid not null references workspaces,
  id uuid not null,
  dialogue_id uuid not null,
  conversation_id uuid not null,
  -- Who they are on file, where they are.
  contact_id uuid,
  -- The outcome's name.
  label text not null,
  queue_id uuid,
  owner_id uuid,
  name text,
  email text,
  phone text,
  company text,
  -- What they typed last in their own words.
  words text not null,
  fields jsonb not null,
  transcript jsonb not null,
  due_at timestamptz not null,
  made_at timestamptz not null,
  done_at timestamptz,
  done_by uuid,
  note text,
  revision bigint not null default 1,
  primary key (workspace_id, id),
  unique (workspace_id, conversation_id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id),
  foreign key (workspace_id, conversation_id) references conversations (workspace_id, id),
  foreign key (workspace_id, contact_id) references contacts (workspace_id, id),
  foreign key (workspace_id, queue_id) references queues (workspace_id, id),
  foreign key (workspace_id, owner_id) references people (workspace_id, id),
  foreign key (workspace_id, done_by) references people (workspace_id, id)
);
create index requests_open on requests (workspace_id, due_at, id) where done_at is null;
create index requests_done on requests (workspace_id, done_at) where done_at is not null;

-- Two contacts that became one: everything that moved, so that it can be undone.
alter table contacts add column merged_into uuid;
create table merges (
  workspace_id uuid not null references workspaces,
  id uuid not null,
  kept_id uuid not null,
  gone_id uuid not null,
  -- Name of the one that went, as it was.
  gone_name text,
  -- Addresses, in small letters, and the name on the firm's own site, that lead to the one that stays.
  emails text[] not null,
  gone_subject text,
  -- What moved, and what stood there before.
  moved jsonb not null,
  made_by uuid,
  made_at timestamptz not null,
  undone_at timestamptz,
  -- Erasing either of the two ends its undo.
  ended_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, kept_id) references contacts (workspace_id, id),
  foreign key (workspace_id, gone_id) references contacts (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);
create index merges_kept on merges (workspace_id, kept_id) where undone_at is null;
create index merges_emails on merges using gin (emails) where undone_at is null;
create index contacts_phone on contacts (workspace_id, phone) where phone is not null;

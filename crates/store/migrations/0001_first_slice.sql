-- Every table that holds customers' data carries the workspace, and every query names it.

create table workspaces (
  id uuid primary key,
  slug text not null unique,
  name text not null,
  made_at timestamptz not null default now()
);

create table people (
  id uuid primary key,
  workspace_id uuid not null references workspaces,
  email text not null,
  name text not null,
  role text not null check (role in ('author', 'rep', 'rep_lead', 'administrator')),
  password_hash text not null,
  active boolean not null default true,
  made_at timestamptz not null default now(),
  unique (workspace_id, id)
);
create unique index people_email on people (lower(email));

create table sessions (
  id text primary key,
  data jsonb not null,
  expires_at timestamptz not null
);
create index sessions_expiry on sessions (expires_at);

-- The catalogue of fields. Ids never change; keys may.
create table fields (
  workspace_id uuid not null references workspaces,
  id text not null,
  key text not null,
  definition jsonb not null,
  changed_at timestamptz not null default now(),
  primary key (workspace_id, id),
  unique (workspace_id, key)
);

create table queues (
  id uuid primary key,
  workspace_id uuid not null references workspaces,
  key text not null,
  name text not null,
  picks text not null check (picks in ('rotation', 'fixed_owner')),
  fixed_owner uuid,
  unique (workspace_id, key),
  unique (workspace_id, id),
  foreign key (workspace_id, fixed_owner) references people (workspace_id, id)
);

create table queue_members (
  workspace_id uuid not null,
  queue_id uuid not null,
  person_id uuid not null,
  position integer not null,
  weight bigint not null default 1 check (weight between 0 and 1000),
  -- What the smooth weighted rotation carries over.
  rotation bigint not null default 0,
  primary key (queue_id, person_id),
  foreign key (workspace_id, queue_id) references queues (workspace_id, id),
  foreign key (workspace_id, person_id) references people (workspace_id, id)
);

create table dialogues (
  id uuid primary key,
  workspace_id uuid not null references workspaces,
  -- Its address on the prospects' side.
  slug text not null unique,
  title text not null,
  -- The release that new conversations get; none: off air.
  on_air uuid,
  made_at timestamptz not null default now(),
  unique (workspace_id, id)
);

create table drafts (
  dialogue_id uuid primary key,
  workspace_id uuid not null,
  revision bigint not null,
  body jsonb not null,
  changed_at timestamptz not null default now(),
  changed_by uuid,
  -- The revision that the newest release was made from.
  released_revision bigint,
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id)
);

-- Every change of a draft, with its inverse: undo, history and "who changed this" come from it.
create table draft_edits (
  workspace_id uuid not null,
  dialogue_id uuid not null,
  revision bigint not null,
  person_id uuid not null,
  at timestamptz not null default now(),
  edits jsonb not null,
  inverse jsonb not null,
  touches text[] not null,
  primary key (dialogue_id, revision),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id)
);

create table releases (
  id uuid primary key,
  workspace_id uuid not null,
  dialogue_id uuid not null,
  number integer not null,
  note text not null,
  body jsonb not null,
  made_by uuid,
  made_at timestamptz not null default now(),
  unique (dialogue_id, number),
  unique (workspace_id, id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id)
);
alter table dialogues add foreign key (workspace_id, on_air) references releases (workspace_id, id);

create table conversations (
  id uuid primary key,
  workspace_id uuid not null,
  dialogue_id uuid not null,
  release_id uuid not null,
  -- SHA-256 of the bearer token that the prospect's browser holds.
  token_hash bytea not null unique,
  -- The fold of its events, so that a step reads one row.
  state jsonb not null,
  events integer not null default 0,
  started_at timestamptz not null,
  last_at timestamptz not null,
  -- The outcome's id; empty for the closing fallback.
  outcome text,
  unique (workspace_id, id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id),
  foreign key (workspace_id, release_id) references releases (workspace_id, id)
);
create index conversations_release on conversations (workspace_id, release_id);

create table conversation_events (
  workspace_id uuid not null,
  conversation_id uuid not null,
  number integer not null,
  kind text not null,
  at timestamptz not null,
  body jsonb not null,
  primary key (conversation_id, number),
  foreign key (workspace_id, conversation_id) references conversations (workspace_id, id)
);

-- Events are only added. Erasure, which blanks a person's words and values, says so for its own transaction.
create function refuse_event_change() returns trigger language plpgsql as $$
begin
  if current_setting('lumbo.erasing', true) = 'yes' and tg_op = 'UPDATE' then
    return new;
  end if;
  raise exception 'conversation events are only added';
end
$$;
create trigger events_only_added before update or delete on conversation_events
  for each row execute function refuse_event_change();

create table companies (
  id uuid primary key,
  workspace_id uuid not null references workspaces,
  name text,
  domain text,
  fields jsonb not null default '{}',
  made_at timestamptz not null default now(),
  unique (workspace_id, id)
);
create unique index companies_domain on companies (workspace_id, domain) where domain is not null;
create unique index companies_name on companies (workspace_id, lower(name)) where domain is null and name is not null;

create table contacts (
  id uuid primary key,
  workspace_id uuid not null references workspaces,
  company_id uuid,
  name text,
  email text,
  phone text,
  fields jsonb not null default '{}',
  made_at timestamptz not null default now(),
  unique (workspace_id, id),
  foreign key (workspace_id, company_id) references companies (workspace_id, id)
);
create unique index contacts_email on contacts (workspace_id, lower(email)) where email is not null;

create table leads (
  id uuid primary key,
  workspace_id uuid not null,
  dialogue_id uuid not null,
  release_id uuid not null,
  conversation_id uuid not null unique,
  contact_id uuid not null,
  company_id uuid,
  queue_id uuid,
  owner_id uuid,
  -- A list of fields, each with id, key, label, type, record, value and how it is shown; a missing field is absent.
  fields jsonb not null,
  score jsonb,
  total bigint,
  band text,
  band_label text,
  -- Place of the band from the lowest, 0; -1 for a lead that was ruled out.
  band_rank integer not null default 0,
  -- The steps of the routing decision.
  decision jsonb not null,
  -- What was said, up to the filing.
  transcript jsonb not null,
  status text not null default 'new' check (status in ('new', 'called', 'won', 'lost', 'not_a_fit')),
  reason text,
  filings integer not null default 1,
  revision bigint not null default 1,
  filed_at timestamptz not null,
  changed_at timestamptz not null default now(),
  unique (workspace_id, id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id),
  foreign key (workspace_id, release_id) references releases (workspace_id, id),
  foreign key (workspace_id, conversation_id) references conversations (workspace_id, id),
  foreign key (workspace_id, contact_id) references contacts (workspace_id, id),
  foreign key (workspace_id, company_id) references companies (workspace_id, id),
  foreign key (workspace_id, queue_id) references queues (workspace_id, id),
  foreign key (workspace_id, owner_id) references people (workspace_id, id)
);
create index leads_owner on leads (workspace_id, owner_id, status);
create index leads_queue on leads (workspace_id, queue_id, status);

-- What happened to a lead, by whom.
create table lead_log (
  id bigint generated always as identity primary key,
  workspace_id uuid not null,
  lead_id uuid not null,
  at timestamptz not null default now(),
  person_id uuid,
  what text not null,
  foreign key (workspace_id, lead_id) references leads (workspace_id, id)
);
create index lead_log_lead on lead_log (workspace_id, lead_id, id);

-- Things to do at a time, and things to send. Later work adds the workers that read them.
create table timers (
  id uuid primary key,
  workspace_id uuid not null references workspaces,
  kind text not null,
  subject uuid not null,
  due_at timestamptz not null,
  done_at timestamptz
);
create index timers_due on timers (due_at) where done_at is null;

create table outbox (
  id uuid primary key,
  workspace_id uuid not null references workspaces,
  kind text not null,
  -- Receivers drop what they have seen under this key.
  idempotency_key text not null unique,
  body jsonb not null,
  attempts integer not null default 0,
  next_at timestamptz not null default now(),
  done_at timestamptz
);
create index outbox_next on outbox (next_at) where done_at is null;

-- Outside places that leads are sent to.
create table destinations (
  workspace_id uuid not null references workspaces,
  id uuid not null,
  name text not null,
  kind text not null check (kind in ('webhook', 'chat')),
  -- https address; its host is checked again at every sending.
  address text not null,
  -- What it gets.
  events text[] not null,
  -- Whose leads; every dialogue's where empty.
  dialogues uuid[] not null default '{}',
  -- Only bands from this place on, counted from the lowest; every lead where absent.
  from_rank integer,
  -- The secret it verifies with, encrypted, and the one before while both count.
  sealed bytea,
  sealed_before bytea,
  before_until timestamptz,
  revision bigint not null default 1,
  paused_at timestamptz,
  paused_why text,
  failing_since timestamptz,
  worked_at timestamptz,
  made_by uuid,
  made_at timestamptz not null,
  removed_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);

-- One event on its way to one destination. What goes is frozen by the first attempt, so that every attempt sends the same.
create table sendings (
  workspace_id uuid not null,
  -- Counts up in the order of the events; the id outside is made of it.
  number bigint generated always as identity,
  id uuid not null,
  destination_id uuid not null,
  lead_id uuid not null,
  event text not null,
  state text not null default 'waiting' check (state in ('waiting', 'done', 'parked')),
  body text,
  attempts integer not null default 0,
  made_at timestamptz not null,
  ended_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, destination_id) references destinations (workspace_id, id),
  foreign key (workspace_id, lead_id) references leads (workspace_id, id)
);
create index sendings_order on sendings (workspace_id, destination_id, lead_id, number) where state = 'waiting';
create index sendings_log on sendings (workspace_id, destination_id, number);
create index sendings_age on sendings (made_at);

create table sending_attempts (
  workspace_id uuid not null,
  sending_id uuid not null,
  number integer not null,
  at timestamptz not null,
  took_ms integer not null,
  -- HTTP status of the answer, where one came.
  status integer,
  -- Its beginning, or why there was none.
  answer text not null,
  primary key (workspace_id, sending_id, number),
  foreign key (workspace_id, sending_id) references sendings (workspace_id, id) on delete cascade
);

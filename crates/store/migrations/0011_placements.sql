-- Where, when, to whom and how dialogues show.

-- Names the workspace in the line of script on its pages; no secret.
alter table workspaces add column page_key text not null unique
  default substr(replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', ''), 1, 20);

create table placements (
  workspace_id uuid not null references workspaces,
  id uuid not null,
  dialogue_id uuid not null,
  -- Of several that fit, the smallest goes.
  position integer not null,
  -- Its own address behind /at/.
  address text not null unique,
  draft jsonb not null,
  revision bigint not null default 1,
  -- What pages get; nothing before the first release.
  released jsonb,
  number integer not null default 0,
  on_air boolean not null default true,
  made_at timestamptz not null,
  removed_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id)
);
create unique index placements_id on placements (id);

create table placement_releases (
  workspace_id uuid not null,
  placement_id uuid not null,
  number integer not null,
  note text not null,
  body jsonb not null,
  made_by uuid,
  made_at timestamptz not null,
  primary key (workspace_id, placement_id, number),
  foreign key (workspace_id, placement_id) references placements (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);

-- How often it showed and was opened, by day in UTC. Nothing of the visitor.
create table placement_days (
  workspace_id uuid not null,
  placement_id uuid not null,
  day date not null,
  shown bigint not null default 0,
  opened bigint not null default 0,
  primary key (workspace_id, placement_id, day),
  foreign key (workspace_id, placement_id) references placements (workspace_id, id)
);

-- Pages on which the line of script was seen.
create table page_sightings (
  workspace_id uuid not null references workspaces,
  page text not null,
  seen_at timestamptz not null,
  primary key (workspace_id, page)
);
create index page_sightings_age on page_sightings (workspace_id, seen_at);

alter table conversations add column placement_id uuid,
  add foreign key (workspace_id, placement_id) references placements (workspace_id, id);
create index conversations_placement on conversations (workspace_id, placement_id, started_at) where placement_id is not null;

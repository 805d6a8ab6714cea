-- Pictures and documents, by the SHA-256 of their content; a dialogue names the hashes it shows.
create table media (
  workspace_id uuid not null references workspaces,
  hash text not null check (hash ~ '^[0-9a-f]{64}$'),
  media_type text not null,
  content bytea not null,
  made_by uuid,
  made_at timestamptz not null default now(),
  primary key (workspace_id, hash),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);

-- What authors say to each other about a row of a draft.
create table comments (
  id uuid primary key,
  workspace_id uuid not null,
  dialogue_id uuid not null,
  -- The row, as kind:id; a row that is gone keeps its comments.
  at_row text not null,
  person_id uuid not null,
  says text not null,
  made_at timestamptz not null default now(),
  resolved_at timestamptz,
  resolved_by uuid,
  unique (workspace_id, id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id),
  foreign key (workspace_id, person_id) references people (workspace_id, id),
  foreign key (workspace_id, resolved_by) references people (workspace_id, id)
);
create index comments_dialogue on comments (workspace_id, dialogue_id, made_at);

-- Who has a draft open, and where they are in it. Rows grow old by themselves; nothing depends on them.
create unlogged table presence (
  workspace_id uuid not null,
  dialogue_id uuid not null,
  person_id uuid not null,
  at_row text,
  seen_at timestamptz not null default now(),
  primary key (dialogue_id, person_id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id),
  foreign key (workspace_id, person_id) references people (workspace_id, id)
);

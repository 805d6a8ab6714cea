-- What was computed of a draft's newest revision, so that any server can show it without computing it again.
create table draft_analyses (
  workspace_id uuid not null,
  dialogue_id uuid not null,
  revision bigint not null,
  -- The newest release it was compared with; 0 before the first.
  release integer not null,
  -- Version of what is computed: one of another version is computed again.
  version integer not null,
  body jsonb not null,
  made_at timestamptz not null,
  primary key (workspace_id, dialogue_id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id)
);

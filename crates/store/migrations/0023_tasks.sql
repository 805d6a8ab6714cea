-- What a person owes on a lead, with a due moment.
create table tasks (
  workspace_id uuid not null references workspaces (id),
  id uuid primary key,
  lead_id uuid not null,
  -- Who owes it.
  person_id uuid not null,
  made_by uuid not null,
  says text not null check (char_length(says) between 1 and 300),
  due_at timestamptz not null,
  made_at timestamptz not null,
  done_at timestamptz,
  foreign key (workspace_id, lead_id) references leads (workspace_id, id) on delete cascade,
  foreign key (workspace_id, person_id) references people (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);
create index tasks_lead on tasks (workspace_id, lead_id, due_at);
create index tasks_open on tasks (workspace_id, person_id, due_at) where done_at is null;

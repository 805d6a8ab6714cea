-- Files of companies and contacts: what each row made or changed, so that a file can be undone as a whole.
create table record_files (
  workspace_id uuid not null references workspaces (id),
  id uuid not null,
  holds text not null check (holds in ('companies', 'contacts')),
  file text not null,
  -- Where it comes from, and on what ground its people may be contacted.
  source text not null,
  ground text not null,
  made_by uuid not null,
  made_at timestamptz not null,
  undone_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);
create index record_files_made on record_files (workspace_id, made_at desc);

create table record_file_rows (
  workspace_id uuid not null,
  file_id uuid not null,
  line integer not null,
  record_id uuid not null,
  -- True where the row made the record.
  made boolean not null,
  -- The company that a contact's row made.
  made_company uuid,
  -- What it wrote: {"name": [before, after], ...}.
  wrote jsonb not null,
  primary key (workspace_id, file_id, line),
  foreign key (workspace_id, file_id) references record_files (workspace_id, id) on delete cascade
);

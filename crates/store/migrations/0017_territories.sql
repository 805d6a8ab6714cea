-- Tables of territories: which queue has which places. They change without a release, as queues do.
create table territories (
  workspace_id uuid not null references workspaces,
  key text not null,
  name text not null,
  -- Rows as the core writes them, in the order in which people see them.
  rows jsonb not null default '[]',
  -- Key of the queue for places without a row.
  otherwise text,
  revision bigint not null default 1,
  changed_at timestamptz not null,
  primary key (workspace_id, key)
);

-- The workspace's own e-mail domains beside the shipped lists; the revision tells copies in memory apart.
alter table workspaces
  add column domains jsonb not null default '{"allow": [], "deny": []}',
  add column domains_revision bigint not null default 0;

-- Secrets with which a workspace's sites sign what they know of a visitor. They are needed as they are, to check signatures.
create table visitor_keys (
  workspace_id uuid not null references workspaces,
  id text not null,
  secret text not null,
  made_by uuid,
  made_at timestamptz not null default now(),
  used_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);

-- Signed values that began a conversation, by SHA-256, until they expire: each counts once.
create table visitor_tokens (
  workspace_id uuid not null references workspaces,
  hash bytea not null,
  expires_at timestamptz not null,
  primary key (workspace_id, hash)
);
create index visitor_tokens_expiry on visitor_tokens (expires_at);

-- When silence ends a conversation, where its author set a limit.
alter table conversations add column idle_at timestamptz;
create index conversations_idle on conversations (idle_at) where outcome is null and idle_at is not null;

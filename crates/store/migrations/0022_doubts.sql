-- Conversations that a machine or a flood may have held are not filed until somebody has looked at them.
alter table conversations add doubt text check (doubt in ('trap', 'quick', 'flood'));
alter table conversations add doubt_settled_at timestamptz;
create index conversations_doubtful on conversations (workspace_id, started_at desc, id)
  where doubt is not null and doubt_settled_at is null;

-- Seconds that a person needs at least from the first line to the lead; 0 asks for none.
alter table workspaces add least_seconds integer not null default 4 check (least_seconds between 0 and 600);

-- Words that people put on leads to find them again.
alter table leads add column tags text[] not null default '{}';
create index leads_tagged on leads (workspace_id) where tags <> '{}';

-- How a contact wants to be reached, and how not, by a person's word.
alter table contacts
  add column prefers text check (prefers in ('call', 'mail', 'text')),
  add column refuses text[] not null default '{}' check (refuses <@ array['call', 'mail', 'text']),
  add column reach_by uuid,
  add column reach_at timestamptz,
  add constraint contacts_reach_by foreign key (workspace_id, reach_by) references people (workspace_id, id);

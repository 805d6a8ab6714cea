-- Lists of leads that a person keeps under a name: what is shown, and what is searched for in it.
create table lenses (
  workspace_id uuid not null,
  person_id uuid not null,
  id uuid not null,
  name text not null,
  shows text not null check (shows in ('mine', 'queue', 'unfinished', 'all')),
  search text not null,
  made_at timestamptz not null,
  primary key (workspace_id, person_id, id),
  foreign key (workspace_id, person_id) references people (workspace_id, id)
);

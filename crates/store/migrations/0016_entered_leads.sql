-- Leads that people enter, by hand or from a file: undone as a whole.
create table imports (
  workspace_id uuid not null,
  id uuid not null,
  dialogue_id uuid not null,
  -- The file's name; absent where it was entered by hand.
  file text,
  -- Where they come from, and on what ground they may be contacted, in the words of whoever entered them.
  source text not null,
  ground text not null,
  owner_id uuid,
  -- Whether owners are told and destinations get them.
  tells boolean not null default false,
  made_by uuid,
  made_at timestamptz not null,
  undone_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, dialogue_id) references dialogues (workspace_id, id),
  foreign key (workspace_id, owner_id) references people (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);
create index imports_newest on imports (workspace_id, made_at desc, id desc);

-- A row of one, so that a row that is sent twice is filed once.
create table import_rows (
  workspace_id uuid not null,
  import_id uuid not null,
  line integer not null,
  conversation_id uuid not null,
  lead_id uuid not null,
  -- The lead's revision after it was entered; where it is another one, somebody worked on it since.
  revision bigint not null,
  primary key (workspace_id, import_id, line),
  foreign key (workspace_id, import_id) references imports (workspace_id, id)
);
create index import_rows_lead on import_rows (workspace_id, lead_id);

-- Nobody held these conversations: no figure counts them.
alter table conversations add column entered boolean not null default false;

-- Events are only added; what was entered by mistake is taken out again as a whole.
create or replace function refuse_event_change() returns trigger language plpgsql as $$
begin
  if current_setting('lumbo.erasing', true) = 'yes' and tg_op = 'UPDATE' then
    return new;
  end if;
  if current_setting('lumbo.undoing', true) = 'yes' and tg_op = 'DELETE' then
    return old;
  end if;
  raise exception 'conversation events are only added';
end
$$;

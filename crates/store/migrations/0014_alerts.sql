-- Days on which somebody is away, and who stands in for them. Days are of their own zone; the moments follow from them.
create table absences (
  workspace_id uuid not null,
  id uuid not null,
  person_id uuid not null,
  from_day date not null,
  until_day date not null,
  from_at timestamptz not null,
  until_at timestamptz not null,
  deputy_id uuid,
  made_by uuid,
  made_at timestamptz not null,
  primary key (workspace_id, id),
  foreign key (workspace_id, person_id) references people (workspace_id, id),
  foreign key (workspace_id, deputy_id) references people (workspace_id, id),
  constraint absences_days check (until_day >= from_day and until_at > from_at),
  constraint absences_deputy check (deputy_id is distinct from person_id)
);
create index absences_person on absences (workspace_id, person_id, until_at);

-- Until when somebody is away at a moment; null where they are here.
create function away_until(workspace uuid, person uuid, at timestamptz) returns timestamptz language sql stable as $$
  select max(a.until_at) from absences a
  where a.workspace_id = workspace and a.person_id = person and a.from_at <= at and a.until_at > at
$$;

-- Who has what falls to somebody at a moment: they themselves, their deputy while they are away, or nobody.
create function stands_in(workspace uuid, person uuid, at timestamptz) returns uuid language sql stable as $$
  select case when away_until(workspace, person, at) is null then p.id else (
      select d.id from absences a join people d on d.workspace_id = a.workspace_id and d.id = a.deputy_id
      where a.workspace_id = workspace and a.person_id = person and a.from_at <= at and a.until_at > at
        and d.active and not d.paused and away_until(workspace, d.id, at) is null
      order by a.until_at desc limit 1) end
  from people p where p.workspace_id = workspace and p.id = person and p.active and not p.paused
$$;

-- What people are told in the application.
create table notices (
  workspace_id uuid not null,
  id uuid not null,
  person_id uuid not null,
  kind text not null check (kind in ('yours', 'offered', 'late', 'rose', 'request', 'failing')),
  lead_id uuid,
  request_id uuid,
  destination_id uuid,
  at timestamptz not null,
  seen_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, person_id) references people (workspace_id, id),
  foreign key (workspace_id, lead_id) references leads (workspace_id, id),
  foreign key (workspace_id, request_id) references requests (workspace_id, id),
  foreign key (workspace_id, destination_id) references destinations (workspace_id, id),
  constraint notices_about check (num_nonnulls(lead_id, request_id, destination_id) = 1)
);
create index notices_person on notices (workspace_id, person_id, at desc, id desc);
create index notices_lead on notices (workspace_id, lead_id) where lead_id is not null;
create index notices_age on notices (at);

alter table leads
  -- When the lead of the reps was told that it is late; once.
  add column late_told_at timestamptz,
  -- When it was offered on to the others of its queue; once.
  add column offered_at timestamptz;
alter table queues
  -- After how many working minutes an untouched lead of the highest band is offered on; never where absent.
  add column offer_after integer default 10 check (offer_after between 1 and 10000);
alter table people
  -- How they want to be told.
  add column alerts jsonb;
alter table destinations
  -- When people were told that it fails; once for each time that it does.
  add column failing_told_at timestamptz;

-- Who belongs together: people of the same team, by its name, whatever the case.
alter table people add column team text check (btrim(team) = team and team <> '');

-- Whose leads somebody sees beside those of their queues: their own, and, leading a team, everybody's in it.
create view sees as
  select p.workspace_id, p.id as person_id, t.id as seen_id
  from people p
    join people t on t.workspace_id = p.workspace_id
      and (t.id = p.id or p.role = 'rep_lead' and lower(t.team) = lower(p.team));

create function seen_by(workspace uuid, person uuid) returns setof uuid language sql stable rows 10 as
  'select seen_id from sees where workspace_id = $1 and person_id = $2';

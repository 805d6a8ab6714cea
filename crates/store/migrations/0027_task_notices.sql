-- A task whose moment has come is told of to whoever owes it.
alter table notices
  add column task_id uuid references tasks (id) on delete cascade,
  drop constraint notices_kind_check,
  add constraint notices_kind_check check (kind in ('yours', 'offered', 'late', 'rose', 'request', 'failing', 'task')),
  drop constraint notices_about,
  add constraint notices_about check (num_nonnulls(lead_id, request_id, destination_id, task_id) = 1);
create index notices_task on notices (task_id) where task_id is not null;

-- Those that are open already are looked after as well.
insert into jobs (workspace_id, id, kind, subject, key, due_at, made_at)
  select workspace_id, gen_random_uuid(), 'task_due', id, id::text, due_at, now() from tasks
  where done_at is null and due_at > now();

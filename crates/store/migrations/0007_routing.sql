-- When queues are open, whom they ask next, and how they pick.
alter table queues
  drop constraint queues_picks_check,
  add constraint queues_picks check (picks in ('rotation', 'fewest_open', 'fixed_owner')),
  -- A calendar as it is written; always open where absent.
  add column hours jsonb,
  -- Whether a lead goes on to the next queue while this one is closed.
  add column passes_on boolean not null default false,
  add column next_queue uuid,
  add column revision bigint not null default 1,
  add constraint queues_next foreign key (workspace_id, next_queue) references queues (workspace_id, id),
  add constraint queues_not_itself check (next_queue is distinct from id);

-- How much a member takes; no limit where absent.
alter table queue_members
  add column untried_limit integer check (untried_limit > 0),
  add column day_limit integer check (day_limit > 0);

alter table people
  -- True while they take no new leads.
  add column paused boolean not null default false,
  add column skills text[] not null default '{}';

alter table leads
  -- When to call at the latest: the band's target, in the queue's working time.
  add column call_by timestamptz,
  -- When a lead is dealt that waits for its queue to open.
  add column waits_until timestamptz;
create index leads_waiting on leads (workspace_id, queue_id) where waits_until is not null;

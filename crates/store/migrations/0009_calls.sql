-- What comes next on a lead, how often it was tried, and how long the first try and the first contact took.
alter table leads
  add column tries integer not null default 0,
  add column tries_planned integer not null default 4,
  -- Whether its band is the highest of its scorecard.
  add column top boolean not null default false,
  add column next_what text check (next_what in ('call', 'go_on', 'find_number', 'give_up')),
  add column next_at timestamptz,
  add column first_try_at timestamptz,
  add column first_contact_at timestamptz,
  -- Working minutes of the queue's calendar from filing on.
  add column first_try_minutes bigint,
  add column first_contact_minutes bigint;
update leads set tries = case when status in ('new', 'junk') then 0 else 1 end,
  first_try_at = case when status <> 'new' then touched_at end,
  first_contact_at = case when status in ('spoken', 'booked', 'accepted', 'won', 'lost') then touched_at end,
  top = band_rank > 0 and band_rank = (select max(t.band_rank) from leads t where t.workspace_id = leads.workspace_id and t.dialogue_id = leads.dialogue_id);
update leads set next_what = case when status in ('new', 'trying', 'later') then 'call' else 'go_on' end, next_at = coalesce(later_on::timestamptz, filed_at)
  where not closed;
-- Open leads are few beside closed ones; their order changes with the clock.
create index leads_open on leads (workspace_id, next_at) where not closed;

-- A call says what came of it. What a change found is kept, so that it can be taken back while nothing else happened.
alter table activities
  add column outcome text check (outcome in ('spoke', 'no_reply', 'message_left', 'wrong_number')),
  add column before jsonb,
  -- The lead's revision after it.
  add column revision bigint,
  add column taken_back_at timestamptz;
create index activities_calls on activities (workspace_id, person_id, at) where outcome is not null;
-- Closed leads, in the order of their list.
create index leads_closed on leads (workspace_id, rank_down, filed_at, id) where closed;
drop index leads_list;

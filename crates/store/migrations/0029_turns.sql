-- The turn of a rotation that was taken for a lead, and whether it was given back; leads that are filed early and wait
-- for the end of their conversation; queues that ask first whoever has a lead of the same company.
alter table leads
  -- {"queue", "moved": [[person, how far]], "last"}.
  add column turn jsonb,
  add column turn_back boolean not null default false,
  add column undecided boolean not null default false;
alter table queues
  drop constraint queues_picks,
  add constraint queues_picks check (picks in ('rotation', 'fewest_open', 'same_company', 'fixed_owner'));

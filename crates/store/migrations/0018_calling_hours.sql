-- Where a prospect's clock is, and within which hours of it they are called.
alter table workspaces
  add column calls_from integer not null default 8 check (calls_from between 0 and 23),
  add column calls_until integer not null default 19 check (calls_until between 1 and 24),
  add check (calls_from < calls_until);

alter table leads add column zone text;
-- The zones of open leads are read one by one from it, so that a long list computes each clock once.
create index leads_zone on leads (workspace_id, zone) where not closed and zone is not null;

-- A zone by its name, where this database knows it: one that it does not would stop every list that reads it.
create function known_zone(name text) returns text language plpgsql stable as $$
begin
  perform now() at time zone name;
  return name;
exception when invalid_parameter_value then
  return null;
end
$$;

-- The first moment from `at` on that is within calling hours there; `at` itself where nothing is known of the zone.
create function callable_at(zone text, at timestamptz, from_hour integer, until_hour integer) returns timestamptz
language sql stable as $$
  select case
    when zone is null then at
    when extract(hour from at at time zone zone) < from_hour
      then (date_trunc('day', at at time zone zone) + make_interval(hours => from_hour)) at time zone zone
    when extract(hour from at at time zone zone) < until_hour then at
    else (date_trunc('day', at at time zone zone) + make_interval(days => 1, hours => from_hour)) at time zone zone
  end
$$;

update leads l set zone = known_zone(c.state->'context'->>'time_zone') from conversations c
  where c.workspace_id = l.workspace_id and c.id = l.shows and c.state->'context'->>'time_zone' is not null;

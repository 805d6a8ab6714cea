-- Jobs: all that happens later. One row says what, about whom, when, and who is at it.
create table jobs (
  workspace_id uuid not null references workspaces,
  id uuid not null,
  kind text not null,
  -- What it is about: a conversation, a lead.
  subject uuid not null,
  -- Makes it unique among its kind: the same thing is never waiting twice.
  key text not null,
  state text not null default 'waiting' check (state in ('waiting', 'leased', 'done', 'parked')),
  due_at timestamptz not null,
  -- Failed attempts since it was last put to wait by somebody, and when the first of them was.
  attempts integer not null default 0,
  failing_since timestamptz,
  last_error text,
  -- Who is at it, and until when nobody else may be.
  lease uuid,
  leased_until timestamptz,
  made_at timestamptz not null,
  ended_at timestamptz,
  primary key (workspace_id, id),
  unique (workspace_id, kind, key)
);
create index jobs_due on jobs (due_at) where state = 'waiting';
create index jobs_leased on jobs (leased_until) where state = 'leased';
create index jobs_ended on jobs (ended_at) where state = 'done';
create index jobs_subject on jobs (workspace_id, subject);

-- Silence is the first kind of job; what the column said is carried over.
insert into jobs (workspace_id, id, kind, subject, key, due_at, made_at)
  select workspace_id, gen_random_uuid(), 'silence', id, id::text, idle_at, last_at from conversations where outcome is null and idle_at is not null;
drop index conversations_idle;
alter table conversations drop column idle_at;
drop table timers;
drop table outbox;

-- A prospect who leaves takes the token along.
alter table conversations alter column token_hash drop not null;

-- What windows are told: a counter for each stream, locked by whoever adds to it, so that numbers are seen in their order.
create table streams (
  workspace_id uuid not null references workspaces,
  topic text not null,
  number bigint not null,
  primary key (workspace_id, topic)
);
create table stream_entries (
  workspace_id uuid not null references workspaces,
  topic text not null,
  number bigint not null,
  at timestamptz not null,
  -- What changed; who hears it reads the change itself, with their own rights.
  kind text not null,
  primary key (workspace_id, topic, number)
);
create index stream_entries_age on stream_entries (at);

-- Records. Every value of a contact or company knows where it came from, when, and what stood there before; who they are
-- stands under @name, @email and @phone, the firm's name under @name of the company.
create table record_values (
  workspace_id uuid not null references workspaces,
  record text not null check (record in ('contact', 'company')),
  record_id uuid not null,
  field_id text not null,
  key text not null,
  label text not null,
  type text not null,
  value jsonb not null,
  shown text not null,
  -- The value as it is compared; absent for what was kept before there were sources.
  typed jsonb,
  source jsonb not null,
  at timestamptz not null,
  before jsonb,
  primary key (workspace_id, record, record_id, field_id)
);
insert into record_values (workspace_id, record, record_id, field_id, key, label, type, value, shown, source, at)
  select c.workspace_id, 'contact', c.id, f ->> 'id', f ->> 'key', f ->> 'label', f ->> 'type', f -> 'value', f ->> 'shown', '"system"'::jsonb, c.made_at
    from contacts c, jsonb_array_elements(case when jsonb_typeof(c.fields) = 'array' then c.fields else '[]' end) f
  union all
  select c.workspace_id, 'company', c.id, f ->> 'id', f ->> 'key', f ->> 'label', f ->> 'type', f -> 'value', f ->> 'shown', '"system"'::jsonb, c.made_at
    from companies c, jsonb_array_elements(case when jsonb_typeof(c.fields) = 'array' then c.fields else '[]' end) f;
insert into record_values (workspace_id, record, record_id, field_id, key, label, type, value, shown, source, at)
  select c.workspace_id, 'contact', c.id, i.field, substr(i.field, 2), i.label, i.type, to_jsonb(i.text), i.text, '"system"'::jsonb, c.made_at
    from contacts c, lateral (values ('@name', 'Name', 'person_name', c.name), ('@email', 'E-mail', 'email', c.email), ('@phone', 'Phone', 'phone', c.phone))
      as i (field, label, type, text) where i.text is not null
  union all
  select c.workspace_id, 'company', c.id, '@name', 'name', 'Company', 'company', to_jsonb(c.name), c.name, '"system"'::jsonb, c.made_at
    from companies c where c.name is not null;
alter table contacts drop column fields, add column subject text;
alter table companies drop column fields;
create unique index contacts_subject on contacts (workspace_id, subject) where subject is not null;
create index contacts_company on contacts (workspace_id, company_id);
-- Two firms may have one name.
drop index companies_name;
alter table conversations add column subject text;

-- A lead can have several conversations, each with a snapshot of what it said.
create table lead_snapshots (
  workspace_id uuid not null,
  conversation_id uuid not null,
  lead_id uuid not null,
  release_id uuid not null,
  name text,
  email text,
  phone text,
  company text,
  fields jsonb not null,
  score jsonb,
  total bigint,
  band text,
  band_label text,
  band_from bigint,
  band_rank integer not null,
  transcript jsonb not null,
  wants text not null,
  filings integer not null,
  filed_at timestamptz not null,
  changed_at timestamptz not null,
  primary key (workspace_id, conversation_id),
  foreign key (workspace_id, lead_id) references leads (workspace_id, id),
  foreign key (workspace_id, conversation_id) references conversations (workspace_id, id),
  foreign key (workspace_id, release_id) references releases (workspace_id, id)
);
create index lead_snapshots_lead on lead_snapshots (workspace_id, lead_id);

alter table leads
  -- What the conversation that it shows said; what others say later never changes it.
  add column name text,
  add column email text,
  add column phone text,
  add column company text,
  add column wants text not null default '',
  add column band_from bigint,
  -- Folded, to be searched.
  add column search text not null default '',
  add column shows uuid,
  -- A conversation with newer answers and a lower band, which waits for a person's word.
  add column newer uuid,
  add column touched_at timestamptz,
  add column amount numeric,
  add column currency text,
  add column later_on date;
update leads l set
  name = k.name, email = k.email, phone = k.phone, shows = l.conversation_id, band_from = (l.score ->> 'band_from')::bigint,
  company = (select c.name from companies c where c.workspace_id = l.workspace_id and c.id = l.company_id),
  wants = coalesce((
    select string_agg(w.words, ', ' order by w.place) from (
      select row_number() over (order by case f ->> 'type' when 'whole_number' then 0 when 'quantity' then 0 when 'yes_no' then 2 else 1 end, n) as place,
        case f ->> 'type' when 'yes_no' then lower(f ->> 'label') when 'choice' then lower(f ->> 'shown') else f ->> 'shown' end as words
      from jsonb_array_elements(l.fields) with ordinality as e (f, n)
      where f ->> 'record' = 'lead' and f ->> 'type' <> 'money' and (f ->> 'type' <> 'yes_no' or f -> 'value' = 'true')) w
    where w.place <= 4), '')
  from contacts k where k.workspace_id = l.workspace_id and k.id = l.contact_id;
update leads set search = lower(concat_ws(' ', name, company, email, phone, wants));
insert into lead_snapshots (workspace_id, conversation_id, lead_id, release_id, name, email, phone, company, fields, score, total, band, band_label, band_from,
    band_rank, transcript, wants, filings, filed_at, changed_at)
  select workspace_id, conversation_id, id, release_id, name, email, phone, company, fields, score, total, band, band_label, band_from,
    band_rank, transcript, wants, filings, filed_at, changed_at from leads;
alter table leads
  alter column shows set not null,
  drop column fields, drop column score, drop column transcript, drop column conversation_id, drop column release_id, drop column filings,
  add foreign key (workspace_id, shows) references conversations (workspace_id, id);

-- One list of what can become of a lead. Who was called has been tried.
alter table leads drop constraint leads_status_check;
update leads set status = 'trying' where status = 'called';
update leads l set touched_at = g.at from (select workspace_id, lead_id, min(at) as at from lead_log where person_id is not null group by 1, 2) g
  where g.workspace_id = l.workspace_id and g.lead_id = l.id;
alter table leads
  add constraint leads_status check (status in ('new', 'trying', 'spoken', 'booked', 'accepted', 'won', 'lost', 'not_a_fit', 'not_reached', 'later', 'junk')),
  -- What the call list is ordered by, so that a page of it is read from an index.
  add column closed boolean generated always as (status in ('won', 'lost', 'not_a_fit', 'not_reached', 'junk')) stored,
  add column rank_down integer generated always as (-band_rank) stored,
  add column tried boolean generated always as (status <> 'new') stored;
drop index leads_owner;
drop index leads_queue;
create index leads_list on leads (workspace_id, closed, rank_down, tried, filed_at, id);
create index leads_owner on leads (workspace_id, owner_id, closed, rank_down, tried, filed_at, id);
create index leads_queue on leads (workspace_id, queue_id, closed, rank_down, tried, filed_at, id);
create index leads_contact on leads (workspace_id, contact_id, dialogue_id, filed_at);
create index leads_dialogue on leads (workspace_id, dialogue_id, filed_at);
create extension if not exists pg_trgm;
create index leads_search on leads using gin (search gin_trgm_ops);

-- What leads hold, typed, to be looked for by field.
create table lead_values (
  workspace_id uuid not null,
  lead_id uuid not null,
  field_id text not null,
  place integer not null,
  text_value text,
  number_value numeric,
  date_value date,
  yes_value boolean,
  primary key (workspace_id, lead_id, field_id, place),
  foreign key (workspace_id, lead_id) references leads (workspace_id, id)
);
create index lead_values_text on lead_values (workspace_id, field_id, text_value) where text_value is not null;
create index lead_values_number on lead_values (workspace_id, field_id, number_value) where number_value is not null;
create index lead_values_date on lead_values (workspace_id, field_id, date_value) where date_value is not null;
insert into lead_values (workspace_id, lead_id, field_id, place, text_value, number_value, date_value, yes_value)
  select l.workspace_id, l.id, f ->> 'id', v.place - 1,
    case when f ->> 'type' in ('whole_number', 'quantity', 'scale', 'money', 'date', 'yes_no', 'consent') then null
      else left(lower(case when jsonb_typeof(v.value) = 'string' then v.value #>> '{}' else f ->> 'shown' end), 500) end,
    case when f ->> 'type' in ('whole_number', 'quantity', 'scale', 'money')
      then (case when jsonb_typeof(v.value) = 'object' then v.value ->> 'amount' else v.value #>> '{}' end)::numeric end,
    case when f ->> 'type' = 'date' then (case when jsonb_typeof(v.value) = 'object' then v.value ->> 'date' else v.value #>> '{}' end)::date end,
    case when f ->> 'type' in ('yes_no', 'consent') then (v.value #>> '{}')::boolean end
  from leads l join lead_snapshots s on s.workspace_id = l.workspace_id and s.conversation_id = l.shows,
    jsonb_array_elements(s.fields) f,
    jsonb_array_elements(case when jsonb_typeof(f -> 'value') = 'array' then f -> 'value' else jsonb_build_array(f -> 'value') end) with ordinality as v (value, place);

-- Something that differs from what is on file, until a person accepts or refuses it.
create table also_given (
  workspace_id uuid not null,
  id uuid not null,
  contact_id uuid not null,
  lead_id uuid not null,
  conversation_id uuid not null,
  what text not null check (what in ('name', 'email', 'phone', 'company')),
  value text not null,
  given_at timestamptz not null,
  settled_at timestamptz,
  settled_by uuid,
  accepted boolean,
  primary key (workspace_id, id),
  foreign key (workspace_id, contact_id) references contacts (workspace_id, id),
  foreign key (workspace_id, lead_id) references leads (workspace_id, id),
  foreign key (workspace_id, conversation_id) references conversations (workspace_id, id),
  foreign key (workspace_id, settled_by) references people (workspace_id, id)
);
create unique index also_given_once on also_given (workspace_id, conversation_id, what, value);
create index also_given_lead on also_given (workspace_id, lead_id);

-- A lead's timeline. What was logged before is carried over; who was called is a call.
alter table lead_log rename to activities;
alter table activities add column kind text;
update activities set kind = case
  when what like 'Filed%' then 'filing' when what = 'Called' then 'call' else 'status' end;
alter table activities alter column kind set not null, add constraint activities_kind check (kind in (
  'conversation', 'filing', 'call', 'mail', 'message', 'meeting', 'note', 'task', 'owner', 'status', 'record', 'sending'));
alter index lead_log_lead rename to activities_lead;

-- Who a queue picked last is kept under the lock of its rotation.
alter table queues add column last_picked uuid, add foreign key (workspace_id, last_picked) references people (workspace_id, id);
update queues q set last_picked = (select l.owner_id from leads l where l.workspace_id = q.workspace_id and l.queue_id = q.id and l.owner_id is not null
  order by l.filed_at desc, l.id desc limit 1);

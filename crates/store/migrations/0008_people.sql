-- Credentials belong to a person, roles to their place in a workspace. A row of people is such a place.
create table accounts (
  id uuid primary key,
  email text not null,
  name text not null,
  -- IANA name; the browser's where absent.
  zone text,
  password_hash text not null,
  -- The second factor: its secret, encrypted, since when it is asked for, and the last step that was used.
  totp_sealed bytea,
  totp_since timestamptz,
  totp_used bigint,
  -- Where they were last.
  workspace_id uuid references workspaces,
  made_at timestamptz not null default now()
);
create unique index accounts_email on accounts (lower(email));
insert into accounts (id, email, name, password_hash, workspace_id, made_at)
  select id, email, name, password_hash, workspace_id, made_at from people;
alter table people add column account_id uuid references accounts, add column ended_at timestamptz;
update people set account_id = id;
alter table people
  alter column account_id set not null,
  drop column password_hash,
  drop constraint people_role_check,
  add constraint people_role check (role in ('author', 'rep', 'rep_lead', 'administrator', 'viewer'));
drop index people_email;
create unique index people_email on people (workspace_id, lower(email));
create unique index people_account on people (workspace_id, account_id);
create index people_places on people (account_id);

-- Codes to get in with when the second factor is lost, by SHA-256.
create table recovery_codes (
  account_id uuid not null references accounts,
  hash bytea not null,
  used_at timestamptz,
  primary key (account_id, hash)
);

-- Sessions are kept under the SHA-256 of their id. Those that were kept as they are end.
delete from sessions;
alter table sessions
  add column made_at timestamptz not null default now(),
  add column account_id uuid generated always as ((data -> 'person' ->> 'account')::uuid) stored;
create index sessions_account on sessions (account_id);

-- Wrong passwords in a row, by account and network.
create table sign_in_tries (
  -- SHA-256 of the folded address: also of those that nobody has.
  email_hash bytea not null,
  network text not null,
  wrong integer not null,
  last_at timestamptz not null,
  primary key (email_hash, network)
);
create index sign_in_tries_age on sign_in_tries (last_at);

-- Links that let somebody in, by SHA-256 of what they hold.
create table invitations (
  workspace_id uuid not null references workspaces,
  id uuid not null,
  email text not null,
  role text not null check (role in ('author', 'rep', 'rep_lead', 'administrator', 'viewer')),
  token_hash bytea not null unique,
  made_by uuid,
  made_at timestamptz not null,
  expires_at timestamptz not null,
  taken_at timestamptz,
  withdrawn_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);

-- The code that guards setting up a workspace, by SHA-256; there is one at a time.
create table setup_code (
  one boolean primary key default true check (one),
  hash bytea not null,
  made_at timestamptz not null
);

alter table workspaces
  -- The demo's workspace; a real one can be begun beside it.
  add column demo boolean not null default false,
  add column zone text not null default 'Europe/London',
  add column settings_revision bigint not null default 0;
update workspaces set demo = true where slug = 'winterlode';

-- Who did what.
create table audit (
  workspace_id uuid not null references workspaces,
  id bigint generated always as identity,
  at timestamptz not null,
  person_id uuid,
  what text not null,
  -- What it was done to, in words: a name, never a value of a lead.
  about text not null,
  subject uuid,
  -- The network it came from, where it is known.
  network text,
  primary key (workspace_id, id),
  foreign key (workspace_id, person_id) references people (workspace_id, id)
);
create index audit_when on audit (workspace_id, at, id);
create index audit_what on audit (workspace_id, what, id);
create index audit_person on audit (workspace_id, person_id, id);
create index audit_seen on audit (workspace_id, subject, person_id, at) where what = 'lead_seen';

-- Secrets are kept encrypted; one that was kept as it is, is encrypted when a server starts.
alter table visitor_keys alter column secret drop not null, add column sealed bytea;

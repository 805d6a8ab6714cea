-- Tokens with which programs use the API as the person who made them, by SHA-256.
create table api_tokens (
  workspace_id uuid not null references workspaces,
  id uuid not null,
  name text not null,
  hash bytea not null unique,
  -- How it ends, to tell it from others.
  ending text not null,
  scopes text[] not null,
  made_by uuid not null,
  made_at timestamptz not null,
  expires_at timestamptz not null,
  -- When it was last used, to within five minutes.
  used_at timestamptz,
  ended_at timestamptz,
  primary key (workspace_id, id),
  foreign key (workspace_id, made_by) references people (workspace_id, id)
);

-- Who somebody is at a sign-in provider: OpenID Connect's issuer and subject, never an address.
create table account_identities (
  issuer text not null,
  subject text not null,
  account_id uuid not null references accounts,
  linked_at timestamptz not null,
  primary key (issuer, subject),
  unique (account_id, issuer)
);

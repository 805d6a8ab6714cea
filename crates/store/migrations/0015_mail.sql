-- Mails: a way to a new password, invitations by mail, mails as a destination. What a link holds is made when its mail is
-- sent, and only its SHA-256 is kept.
create table resets (
  id uuid primary key,
  account_id uuid not null references accounts,
  token_hash bytea unique,
  made_at timestamptz not null,
  expires_at timestamptz not null,
  used_at timestamptz
);
create index resets_account on resets (account_id, made_at);

alter table invitations add column mail_hash bytea unique;

alter table destinations
  drop constraint destinations_kind,
  add constraint destinations_kind check (kind in ('webhook', 'chat', 'customer_system', 'sheet', 'mail'));

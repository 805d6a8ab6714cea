-- A conversation that the workspace's own people try is no prospect's: it files nothing and counts nowhere.
alter table conversations add test text check (test in ('link', 'signed_in', 'own_address'));

-- Mail domains of the workspace's own people; who answers with one of their addresses is testing.
alter table workspaces add own_mail_domains text[] not null default '{}'
  check (cardinality(own_mail_domains) <= 50);

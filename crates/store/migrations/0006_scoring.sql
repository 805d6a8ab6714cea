-- What past leads answered and what became of them is read from here on, and again only where it changed.
create index leads_changed on leads (workspace_id, dialogue_id, changed_at);

-- Whether the lead was a fit after all, by a rep's word, and the criterion that misled.
alter table leads
  add column fits boolean,
  add column misled text,
  add constraint leads_misled check (misled is null or fits is not null);

-- The id with which a page began a conversation: asked again because its answer was lost, it begins no second one.
alter table conversations add column start_id text;
create unique index conversations_started_once on conversations (dialogue_id, start_id) where start_id is not null;

-- Where prospects read what becomes of what they say.
alter table workspaces add column privacy_link text;

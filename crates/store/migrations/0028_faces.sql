-- Pictures of people and workspaces, small and written by ourselves.
alter table accounts add column picture bytea, add column picture_type text,
  add constraint accounts_picture check ((picture is null) = (picture_type is null));
alter table workspaces add column picture bytea, add column picture_type text,
  add constraint workspaces_picture check ((picture is null) = (picture_type is null));

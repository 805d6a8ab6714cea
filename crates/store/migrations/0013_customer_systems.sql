-- Customer systems and sheets: what goes where, what a customer system says that it holds, and our records' ids there.
alter table destinations
  drop constraint destinations_kind_check,
  add constraint destinations_kind check (kind in ('webhook', 'chat', 'customer_system', 'sheet')),
  add column mapping jsonb,
  add column their_schema jsonb,
  add column schema_read_at timestamptz;

create table outside_ids (
  workspace_id uuid not null,
  destination_id uuid not null,
  record text not null check (record in ('company', 'contact', 'lead')),
  record_id uuid not null,
  outside_id text not null,
  link text,
  at timestamptz not null,
  primary key (workspace_id, destination_id, record, record_id),
  foreign key (workspace_id, destination_id) references destinations (workspace_id, id)
);
create index outside_ids_record on outside_ids (workspace_id, record, record_id);

-- Records there that could be one of ours, until a person says which.
alter table sendings add column choose jsonb;

-- Lists keep what they look for in any field, their columns and their order; one index serves every test of a field.
alter table lenses add column look jsonb not null default '{}';
drop index lead_values_text, lead_values_number, lead_values_date;
create index lead_values_field on lead_values (workspace_id, field_id)
  include (lead_id, text_value, number_value, date_value, yes_value);

-- The statements of one answered turn, as the server sends them, with rows of the same size.
\set n random(1, 2000)
select id, workspace_id, dialogue_id, release_id, state, events from conversations where token_hash = decode(lpad(to_hex(:n::int), 64, '0'), 'hex') \gset c_
with moved as (
  update conversations set state = :c_state::jsonb, events = events + 4, last_at = now(), outcome = null where workspace_id = :c_workspace_id::uuid and id = :c_id::uuid and events >= :c_events::int returning id)
insert into conversation_events (workspace_id, conversation_id, at, number, kind, body)
  select :c_workspace_id::uuid, moved.id, now(), n.number, n.kind, n.body
  from moved,
       unnest(array[nextval('bench_numbers'), nextval('bench_numbers'), nextval('bench_numbers'), nextval('bench_numbers')]::int[],
              array['taken', 'replied', 'kept', 'asked']::text[],
              array['{"event": "taken", "input": "i3", "at": "2026-11-23T15:30:31.202834178Z"}', '{"event": "replied", "turn": "t_pallets", "text": "about 120", "picked": false}',
                    '{"event": "kept", "turn": "t_pallets", "field": "fld_pallets", "value": {"kind": "number", "amount": "120"}, "shown": "120 pallets", "heard": {"text": "120", "start": 6, "end": 9}, "before": 15, "after": 25}',
                    '{"event": "asked", "turn": "t_start", "text": "When would the first pallets arrive?"}']::jsonb[]) as n (number, kind, body);

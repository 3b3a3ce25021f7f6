-- the table of fates as one value, made anew whenever the table changes: the trigger looks a step up in it without
-- asking the table for every row, and after the row is changed, since one before it has to lock each row first
create function note_fate_steps() returns trigger language plpgsql as $$
begin
  execute format('create or replace function fate_steps() returns jsonb language sql immutable as %L',
    (select format('select %L::jsonb', jsonb_object_agg(from_fate || ' ' || event || ' ' || to_fate, 1)) from fate_step));
  return null;
end $$;
create trigger fate_steps_noted after insert or update or delete or truncate on fate_step for each statement execute function note_fate_steps();
update fate_step set event = event where from_fate = 'pending' and event = 'left';

drop trigger entry_fate_moves on entry;
drop function check_fate_step();
create function refuse_fate_step() returns trigger language plpgsql as $$
begin
  raise exception 'no step from % by % to %', old.fate, new.last_event, new.fate using errcode = 'check_violation';
end $$;
create trigger entry_fate_moves after update of fate on entry for each row
  when (old.fate is distinct from new.fate and (fate_steps() ? (old.fate || ' ' || new.last_event || ' ' || new.fate)) is not true)
  execute function refuse_fate_step();

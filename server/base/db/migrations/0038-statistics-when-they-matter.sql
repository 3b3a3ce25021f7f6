-- after bulk load the planner must know what came; of what is little against what is there it knows enough, and looking
-- over a whole table for each short list has every other ticket wait
drop function refresh_item_statistics();
drop function refresh_entry_statistics();
create function refresh_statistics(of regclass, came bigint) returns void language plpgsql security definer as $$
begin
  if came < 20000 and (came < 500 or came * 10 < (select c.reltuples from pg_class c where c.oid = of)) then return; end if;
  if of = 'item'::regclass then analyze item; elsif of = 'entry'::regclass then analyze entry; end if;
end $$;

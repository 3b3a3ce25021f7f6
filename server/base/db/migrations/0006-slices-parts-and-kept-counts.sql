-- what an item is counted together with (a conversation, a calendar), as a keyed hash; and the digests of the
-- further records a phone makes of one item
alter table item
  add column slice bigint,
  add column parts bytea[] not null default '{}';
create index item_slice on item (reading_id, slice, seq) where slice is not null;

alter table entry
  add column parts bytea[] not null default '{}',
  -- the first count holds it already; settled for good when that is frozen
  add column is_there boolean not null default false;

-- a further record of an item that has its own row
alter table origin add column is_part boolean not null default false;

-- second figures of a reading: conversations, attachments, occurrences, items by year; made when it is whole
alter table reading add column figures jsonb not null default '{}';

-- the slices of a whole reading
create table reading_group (
  reading_id bigint not null references reading on delete cascade,
  slice bigint not null,
  items int not null,
  from_at timestamptz,
  to_at timestamptz,
  -- one of its items: its sealed list holds what the slice is called
  first_seq int not null,
  primary key (reading_id, slice)
);
create index reading_group_newest on reading_group (reading_id, to_at desc nulls last, slice);

-- how the new phone's records were paired, counted when they were
alter table ticket_kind add column origins jsonb not null default '{}';
update ticket_kind k set origins = coalesce(
  (select jsonb_object_agg(origin, n) from (select origin, count(*) as n from origin o where o.ticket_id = k.ticket_id and o.kind = k.kind group by origin) c), '{}');

-- entries counted by all that a ledger or a forecast asks of them; kept by the triggers below, so that a look at a
-- ticket costs the same at 50 items and at 500,000
create table tally (
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  fate text not null,
  is_late boolean not null,
  is_chosen boolean not null,
  is_sent boolean not null,
  is_there boolean not null,
  has_change boolean not null,
  has_loss boolean not null,
  reasons text[] not null,
  -- items, and the further records the new phone makes of them
  n int not null,
  parts int not null,
  primary key (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, reasons)
);

create function keep_tally() returns trigger language plpgsql as $$
begin
  if tg_op = 'INSERT' then
    insert into tally as t
    select ticket_id, kind, fate, is_late, is_chosen, sends > 0, is_there, has_change, has_loss, reasons, count(*), sum(cardinality(parts))
      from new_rows
     group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10
     order by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10
        on conflict (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, reasons)
        do update set n = t.n + excluded.n, parts = t.parts + excluded.parts;
  elsif tg_op = 'DELETE' then
    insert into tally as t
    select ticket_id, kind, fate, is_late, is_chosen, sends > 0, is_there, has_change, has_loss, reasons, -count(*), -sum(cardinality(parts))
      from old_rows
     group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10
     order by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10
        on conflict (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, reasons)
        do update set n = t.n + excluded.n, parts = t.parts + excluded.parts;
  else
    insert into tally as t
    select ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, reasons, sum(n), sum(parts)
      from (
        select ticket_id, kind, fate, is_late, is_chosen, sends > 0 as is_sent, is_there, has_change, has_loss, reasons, 1 as n, cardinality(parts) as parts from new_rows
        union all
        select ticket_id, kind, fate, is_late, is_chosen, sends > 0, is_there, has_change, has_loss, reasons, -1, -cardinality(parts) from old_rows
      ) moved
     group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10
    having sum(n) <> 0 or sum(parts) <> 0
     order by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10
        on conflict (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, reasons)
        do update set n = t.n + excluded.n, parts = t.parts + excluded.parts;
  end if;
  return null;
end $$;
create trigger entry_inserted after insert on entry referencing new table as new_rows for each statement execute function keep_tally();
create trigger entry_updated after update on entry referencing old table as old_rows new table as new_rows for each statement execute function keep_tally();
create trigger entry_deleted after delete on entry referencing old table as old_rows for each statement execute function keep_tally();
insert into tally
select ticket_id, kind, fate, is_late, is_chosen, sends > 0, is_there, has_change, has_loss, reasons, count(*), sum(cardinality(parts))
  from entry
 group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10;
-- an entry is found by its item: the items of one conversation
create index entry_item on entry (reading_id, item_seq);

-- what becomes of an item's fate by each event: the same table as the core's, held here against every other way
create table fate_step (
  from_fate text not null,
  event text not null,
  to_fate text not null,
  primary key (from_fate, event)
);
insert into fate_step (from_fate, event, to_fate) values
  ('pending', 'left', 'notChosen'), ('pending', 'barred', 'cannotCross'), ('pending', 'there', 'alreadyThere'), ('pending', 'taken', 'carried'), ('pending', 'takenChanged', 'changed'), ('pending', 'joined', 'merged'), ('pending', 'joinedByPhone', 'merged'), ('pending', 'refused', 'refused'), ('pending', 'unread', 'unreadable'), ('pending', 'cannot', 'cannotCross'), ('pending', 'vanished', 'gone'), ('pending', 'edited', 'pending'), ('pending', 'installed', 'changed'), ('pending', 'undone', 'undone'), ('pending', 'closed', 'notChosen'),
  ('notChosen', 'chosen', 'pending'), ('notChosen', 'edited', 'pending'), ('notChosen', 'cameBack', 'pending'),
  ('cannotCross', 'unbarred', 'pending'), ('cannotCross', 'edited', 'pending'),
  ('alreadyThere', 'noLongerThere', 'pending'), ('alreadyThere', 'edited', 'pending'),
  ('carried', 'found', 'carried'), ('carried', 'foundChanged', 'changed'), ('carried', 'foundJoined', 'merged'), ('carried', 'foundEdited', 'editedThere'), ('carried', 'foundPushedOut', 'pushedOut'), ('carried', 'notFound', 'lost'), ('carried', 'edited', 'pending'), ('carried', 'undone', 'undone'), ('carried', 'takenAway', 'undone'),
  ('changed', 'found', 'carried'), ('changed', 'foundChanged', 'changed'), ('changed', 'foundJoined', 'merged'), ('changed', 'foundEdited', 'editedThere'), ('changed', 'foundPushedOut', 'pushedOut'), ('changed', 'notFound', 'lost'), ('changed', 'edited', 'pending'), ('changed', 'undone', 'undone'), ('changed', 'takenAway', 'undone'),
  ('merged', 'found', 'carried'), ('merged', 'foundChanged', 'changed'), ('merged', 'foundJoined', 'merged'), ('merged', 'foundEdited', 'editedThere'), ('merged', 'foundPushedOut', 'pushedOut'), ('merged', 'notFound', 'lost'), ('merged', 'edited', 'pending'), ('merged', 'undone', 'undone'), ('merged', 'takenAway', 'undone'),
  ('lost', 'found', 'carried'), ('lost', 'foundChanged', 'changed'), ('lost', 'foundJoined', 'merged'), ('lost', 'foundEdited', 'editedThere'), ('lost', 'foundPushedOut', 'pushedOut'), ('lost', 'notFound', 'lost'), ('lost', 'edited', 'pending'), ('lost', 'undone', 'undone'), ('lost', 'takenAway', 'undone'), ('lost', 'again', 'pending'),
  ('editedThere', 'found', 'carried'), ('editedThere', 'foundChanged', 'changed'), ('editedThere', 'foundJoined', 'merged'), ('editedThere', 'foundEdited', 'editedThere'), ('editedThere', 'foundPushedOut', 'pushedOut'), ('editedThere', 'notFound', 'lost'), ('editedThere', 'edited', 'pending'), ('editedThere', 'undone', 'undone'), ('editedThere', 'takenAway', 'undone'), ('editedThere', 'again', 'pending'),
  ('pushedOut', 'found', 'carried'), ('pushedOut', 'foundChanged', 'changed'), ('pushedOut', 'foundJoined', 'merged'), ('pushedOut', 'foundEdited', 'editedThere'), ('pushedOut', 'foundPushedOut', 'pushedOut'), ('pushedOut', 'notFound', 'lost'), ('pushedOut', 'edited', 'pending'), ('pushedOut', 'undone', 'undone'), ('pushedOut', 'takenAway', 'undone'), ('pushedOut', 'again', 'pending'),
  ('refused', 'again', 'pending'), ('refused', 'edited', 'pending'),
  ('unreadable', 'again', 'pending'), ('unreadable', 'edited', 'pending'),
  ('gone', 'cameBack', 'pending'), ('gone', 'edited', 'pending'),
  ('undone', 'again', 'pending'), ('undone', 'edited', 'pending');

alter table entry drop constraint entry_fate_check;
alter table entry add constraint entry_fate_check check (fate in ('carried', 'changed', 'merged', 'alreadyThere', 'notChosen', 'cannotCross',
  'refused', 'unreadable', 'gone', 'lost', 'editedThere', 'pushedOut', 'undone', 'pending'));
alter table entry
  -- what happened to it last; its fate follows from the one before by the table above
  add column last_event text not null default 'read',
  -- it is, or is to be, one record with one the new phone had
  add column joins boolean not null default false,
  -- a hand makes it on the new phone
  add column by_hand boolean not null default false,
  -- the new phone keeps only its newest, and has no room for it
  add column no_room boolean not null default false,
  -- the new phone holds other content under the same identity, which stays
  add column other_there boolean not null default false,
  -- its picture is made into another at its turn
  add column converts boolean not null default false,
  -- the content under which it is there already, when that is not the form it would take
  add column there bytea,
  -- how often it was tried again by itself after what may pass
  add column retries smallint not null default 0,
  -- it was there already, and the record it was there as is no more: its own stands in for that
  add column stands_in boolean not null default false;
update entry
   set joins = 'joined-with-theirs' = any(reasons),
       no_room = 'no-room' = any(reasons),
       converts = 'converted-to-jpeg' = any(reasons),
       by_hand = reasons && array['counterpart-same-maker', 'counterpart-equal-use'],
       reasons = array_remove(array_remove(reasons, 'joined-with-theirs'), 'no-room');

create function check_fate_step() returns trigger language plpgsql as $$
begin
  if not exists (select 1 from fate_step s where s.from_fate = old.fate and s.event = new.last_event and s.to_fate = new.fate) then
    raise exception 'no step from % by % to %', old.fate, new.last_event, new.fate using errcode = 'check_violation';
  end if;
  return new;
end $$;
create trigger entry_fate_moves before update of fate on entry for each row when (old.fate is distinct from new.fate) execute function check_fate_step();

-- what steers and what explains, as it is shown
create function shown_reasons(e entry) returns text[] language sql immutable as $$
  select e.reasons || array_remove(array[
    case when e.joins then 'joined-with-theirs' end,
    case when e.no_room then 'no-room' end,
    case when e.other_there then 'other-data-there' end], null)
$$;

-- every record this ticket wrote on its new phone: put in when its batch is decided, its id filled in once, never
-- removed while the ticket lives
create table written (
  id bigint generated always as identity primary key,
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  entry_seq int not null,
  batch_id bigint references batch on delete cascade,
  ord int not null default 0,
  -- 0: the item's own record; else which further one
  part smallint not null default 0,
  -- what it was to say on that phone, and of which reading it was made
  expected bytea not null,
  reading_id bigint,
  item_seq int,
  native bytea,
  -- its item's record now; a former one is left behind while it stands
  is_current boolean not null default true,
  -- a whole listing held it
  was_seen boolean not null default false,
  -- refused, joined: there was never a record of its own. gone: seen gone, and a later record under its id is nobody's of ours
  ended text check (ended in ('refused', 'joined', 'gone')),
  -- asked to be taken away: the record it was found as, and what that said then
  away_native bytea,
  away_digest bytea
);
create index written_entry on written (ticket_id, kind, entry_seq);
create index written_batch on written (batch_id) where batch_id is not null;

insert into written (ticket_id, kind, entry_seq, batch_id, ord, expected, reading_id, item_seq, native, is_current)
select b.ticket_id, b.kind, i.entry_seq, i.batch_id, i.ord, i.expected, e.reading_id, e.item_seq,
       case when b.state = 'settled' and last.batch_id = i.batch_id then e.written end,
       last.batch_id = i.batch_id
  from batch_item i
  join batch b on b.id = i.batch_id
  join entry e on e.ticket_id = b.ticket_id and e.kind = b.kind and e.seq = i.entry_seq
  join (select b.ticket_id, b.kind, i.entry_seq, max(i.batch_id) as batch_id from batch_item i join batch b on b.id = i.batch_id group by 1, 2, 3) last
    on last.ticket_id = b.ticket_id and last.kind = b.kind and last.entry_seq = i.entry_seq;
-- a batch whose item was refused, joined or sent again wrote nothing that could be named
update written w set is_current = false
  from batch b
 where b.id = w.batch_id and b.state = 'settled' and w.native is null;
-- what an edited item left behind under its former form
insert into written (ticket_id, kind, entry_seq, expected, reading_id, item_seq, native, is_current, was_seen)
select ticket_id, kind, seq, outdated_digest, null, null, outdated, false, true
  from entry
 where outdated is not null and outdated_digest is not null and not joins;
drop table batch_item;

-- theirs, which goes once the joined record that stands in for it is proved
alter table joining
  add column replaces boolean not null default false,
  -- its item was edited on the old phone since: undone, it is joined anew
  add column again boolean not null default false;
update joining j set replaces = true
  from entry e
 where e.ticket_id = j.ticket_id and e.kind = j.kind and e.seq = j.entry_seq and e.joins and e.outdated is not null and j.state = 'sent';
drop index entry_outdated;
alter table entry drop column outdated, drop column outdated_digest;

alter table origin drop constraint origin_origin_check;
alter table origin add constraint origin_origin_check check (origin in ('kept', 'addedTo', 'altered', 'putBack', 'arrived', 'editedThere',
  'cameOtherwise', 'leftBehind', 'double', 'cleared', 'absorbed', 'pushedOut', 'missing'));
alter table origin
  -- of one left behind: the record this ticket wrote
  add column written_id bigint;

drop trigger entry_inserted on entry;
drop trigger entry_updated on entry;
drop trigger entry_deleted on entry;
drop table tally;
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
  joins boolean not null,
  by_hand boolean not null,
  -- as they are shown
  reasons text[] not null,
  -- items, and the further records the new phone makes of them
  n int not null,
  parts int not null,
  primary key (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons)
);

create or replace function keep_tally() returns trigger language plpgsql as $$
begin
  if tg_op = 'INSERT' then
    insert into tally as t
    select ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons, count(*), sum(parts)
      from (select ticket_id, kind, fate, is_late, is_chosen, sends > 0 as is_sent, is_there, has_change, has_loss, joins, by_hand,
             reasons || array_remove(array[case when joins then 'joined-with-theirs' end, case when no_room then 'no-room' end, case when other_there then 'other-data-there' end], null) as reasons, cardinality(parts) as parts from new_rows r) moved
     group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12
     order by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12
       on conflict (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons)
       do update set n = t.n + excluded.n, parts = t.parts + excluded.parts;
  elsif tg_op = 'DELETE' then
    insert into tally as t
    select ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons, -count(*), -sum(parts)
      from (select ticket_id, kind, fate, is_late, is_chosen, sends > 0 as is_sent, is_there, has_change, has_loss, joins, by_hand,
             reasons || array_remove(array[case when joins then 'joined-with-theirs' end, case when no_room then 'no-room' end, case when other_there then 'other-data-there' end], null) as reasons, cardinality(parts) as parts from old_rows r) moved
     group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12
     order by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12
       on conflict (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons)
       do update set n = t.n + excluded.n, parts = t.parts + excluded.parts;
  else
    insert into tally as t
    select ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons, sum(n), sum(parts)
      from (
        select ticket_id, kind, fate, is_late, is_chosen, sends > 0 as is_sent, is_there, has_change, has_loss, joins, by_hand,
             reasons || array_remove(array[case when joins then 'joined-with-theirs' end, case when no_room then 'no-room' end, case when other_there then 'other-data-there' end], null) as reasons, 1 as n, cardinality(parts) as parts from new_rows r
        union all
        select ticket_id, kind, fate, is_late, is_chosen, sends > 0 as is_sent, is_there, has_change, has_loss, joins, by_hand,
             reasons || array_remove(array[case when joins then 'joined-with-theirs' end, case when no_room then 'no-room' end, case when other_there then 'other-data-there' end], null) as reasons, -1, -cardinality(parts) from old_rows r
      ) moved
     group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12
    having sum(n) <> 0 or sum(parts) <> 0
     order by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12
       on conflict (ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons)
       do update set n = t.n + excluded.n, parts = t.parts + excluded.parts;
  end if;
  return null;
end $$;
create trigger entry_inserted after insert on entry referencing new table as new_rows for each statement execute function keep_tally();
create trigger entry_updated after update on entry referencing old table as old_rows new table as new_rows for each statement execute function keep_tally();
create trigger entry_deleted after delete on entry referencing old table as old_rows for each statement execute function keep_tally();
insert into tally
select ticket_id, kind, fate, is_late, is_chosen, is_sent, is_there, has_change, has_loss, joins, by_hand, reasons, count(*), sum(parts)
  from (select ticket_id, kind, fate, is_late, is_chosen, sends > 0 as is_sent, is_there, has_change, has_loss, joins, by_hand,
             reasons || array_remove(array[case when joins then 'joined-with-theirs' end, case when no_room then 'no-room' end, case when other_there then 'other-data-there' end], null) as reasons, cardinality(parts) as parts from entry e) e
 group by 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12;

-- a run's states by a table, too; held: paused by hand, and nobody's until it is resumed
create table run_step (
  from_state text not null,
  event text not null,
  to_state text not null,
  primary key (from_state, event)
);
insert into run_step (from_state, event, to_state) values
  ('waiting', 'claimed', 'running'), ('waiting', 'held', 'held'), ('waiting', 'stopped', 'stopped'),
  ('running', 'claimed', 'running'), ('running', 'waits', 'paused'), ('running', 'released', 'waiting'), ('running', 'held', 'held'), ('running', 'stopped', 'stopped'), ('running', 'ended', 'done'),
  ('paused', 'claimed', 'running'), ('paused', 'held', 'held'), ('paused', 'stopped', 'stopped'),
  ('held', 'resumed', 'waiting'), ('held', 'stopped', 'stopped');
alter table run drop constraint run_state_check;
alter table run add constraint run_state_check check (state in ('waiting', 'running', 'paused', 'held', 'done', 'stopped'));
alter table run
  add column last_event text not null default 'started',
  -- the advisory lock its owner holds while its session lives; when that is free, so is the run
  add column lease_key int;
update run set state = 'held', reason = null where state = 'paused' and reason = 'PausedByHand';
drop index run_open;
create index run_open on run (state) where state in ('waiting', 'running', 'paused', 'held');
alter table run drop constraint run_type_check;
alter table run add constraint run_type_check check (type in ('count-in', 'carry', 'check-off', 'take-away'));
create function check_run_step() returns trigger language plpgsql as $$
begin
  if not exists (select 1 from run_step s where s.from_state = old.state and s.event = new.last_event and s.to_state = new.state) then
    raise exception 'no step from % by % to %', old.state, new.last_event, new.state using errcode = 'check_violation';
  end if;
  return new;
end $$;
create trigger run_state_moves before update of state on run for each row when (old.state is distinct from new.state) execute function check_run_step();

alter table ticket
  -- signed with what stands: differences nobody accepted are named on the sheet as open
  add column signed_open boolean not null default false,
  add column called_off_at timestamptz,
  -- sealed
  add column called_off_why bytea;
alter table ticket_note drop constraint ticket_note_what_check;
alter table ticket_note add constraint ticket_note_what_check check (what in ('rested', 'resumed', 'handed-over', 'new-exchanged', 'called-off'));

alter table ticket_phone drop constraint ticket_phone_platform_check;
alter table ticket_phone add constraint ticket_phone_platform_check check (platform in ('android', 'ios', 'keypad', 'file'));

alter table ticket
  -- kinds the customer wants; those this version carries have a row in ticket_kind, the others are done by hand
  add column wanted text[] not null default '{}',
  -- answers at the counter, by code
  add column intake jsonb not null default '{}',
  add column held_by bigint references staff,
  add column resting_at timestamptz;
update ticket set wanted = coalesce((select array_agg(kind) from ticket_kind k where k.ticket_id = ticket.id), '{}'), held_by = booked_by;

-- what a person said of a need: looked at and ticked, or waived with a reason
create table need_mark (
  ticket_id bigint not null references ticket on delete cascade,
  side text not null check (side in ('old', 'new')),
  code text not null,
  how text not null check (how in ('ticked', 'waived')),
  reason text,
  staff_id bigint not null references staff,
  at timestamptz not null default now(),
  primary key (ticket_id, side, code),
  check (how = 'ticked' or reason is not null)
);

-- what a phone reported of each need, as it was when it first said so on this ticket, and as it is now: what was
-- changed for the move must be put back
create table need_seen (
  ticket_id bigint not null references ticket on delete cascade,
  side text not null check (side in ('old', 'new')),
  code text not null,
  first_met boolean not null,
  is_met boolean not null,
  -- since when it is as it is: how long a finger has been waited for
  since timestamptz not null default now(),
  changed_at timestamptz,
  primary key (ticket_id, side, code)
);

-- a setting changed for the move that its phone can't report, or whose putting back was waived by name
create table put_back (
  ticket_id bigint not null references ticket on delete cascade,
  side text not null check (side in ('old', 'new')),
  code text not null,
  how text not null check (how in ('ticked', 'waived')),
  -- sealed name of who waived it
  by_name bytea,
  staff_id bigint not null references staff,
  at timestamptz not null default now(),
  primary key (ticket_id, side, code)
);

-- the course of a ticket beside its counts: rests, hand-overs, exchanged phones; the words are sealed
create table ticket_note (
  id bigint generated always as identity primary key,
  ticket_id bigint not null references ticket on delete cascade,
  what text not null check (what in ('rested', 'resumed', 'handed-over', 'new-exchanged')),
  staff_id bigint not null references staff,
  to_staff_id bigint references staff,
  words bytea,
  -- maker and model of a phone that was given back
  phone text,
  at timestamptz not null default now()
);
create index ticket_note_ticket on ticket_note (ticket_id, id);

-- what was left behind by choice, kept while the phone is read again
create table left_behind (
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  native bytea not null,
  primary key (ticket_id, kind, native)
);

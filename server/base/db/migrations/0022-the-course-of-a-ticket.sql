-- the course of a ticket: who did what to it, and what it did by itself; added to, and never changed but for words,
-- which go with the ticket's key
create table ticket_act (
  id bigint generated always as identity primary key,
  ticket_id bigint not null references ticket on delete cascade,
  at timestamptz not null default now(),
  -- null: the house itself
  staff_id bigint references staff,
  what text not null,
  side text check (side in ('old', 'new')),
  kind text,
  code text,
  why text,
  to_staff_id bigint references staff,
  -- model of a phone that was given back
  phone text,
  n bigint,
  of_n bigint,
  -- there were words, also once they are gone
  has_words boolean not null default false,
  -- sealed
  words bytea
);
create index ticket_act_ticket on ticket_act (ticket_id, id);

insert into ticket_act (ticket_id, at, staff_id, what, code, why, to_staff_id, phone, has_words, words)
select ticket_id, at, staff_id, what, code, why, to_staff_id, phone, words is not null, words
  from (
    select id as ticket_id, created_at as at, booked_by as staff_id, 'booked' as what, null as code, null as why,
           null::bigint as to_staff_id, null as phone, null::bytea as words
      from ticket
    union all
    select ticket_id, at, staff_id, what, null, null, to_staff_id, phone, words from ticket_note
    union all
    select s.ticket_id, s.from_at, s.staff_id, case s.scope when 'ended' then 'hidden' else 'shown' end, null,
           case s.scope when 'ended' then null else s.reason end, null, null, null
      from showing s join ticket t on t.id = s.ticket_id
    union all
    select ticket_id, started_at, started_by, type, null, null, null, null, null from run
    union all
    select ticket_id, ended_at, null, case state when 'done' then 'ended' else 'stopped' end, type, null, null, null, null
      from run where ended_at is not null
    union all
    select id, signed_at, null, 'signed', null, null, null, null, null from ticket where signed_at is not null
    union all
    select id, erased_at, null, 'erased', null, null, null, null, null from ticket where erased_at is not null
  ) known
 order by at;

drop table ticket_note;

-- straight through: from ready phones to the check by itself, within what was agreed; what it stopped for
alter table ticket add column straight jsonb, add column straight_stop jsonb;
create index ticket_straight on ticket (id) where straight is not null;

-- the shop's own settings, and a log of what was changed in them
alter table shop
  add column locale text not null default 'en-GB',
  add column receipt_terms text not null default '',
  add column sheet_words text not null default '',
  -- for how many days a past ticket is found by a phone's serial
  add column serial_days int not null default 90 check (serial_days between 1 and 3650);
alter table staff add column is_active boolean not null default true;
create table port_name (
  port int primary key,
  name text not null
);
create table shop_change (
  id bigint generated always as identity primary key,
  at timestamptz not null default now(),
  staff_id bigint references staff,
  what text not null,
  of_what text,
  before text,
  after text
);

-- a tab that only wants to know that something ended or waits asks for nothing else
create or replace function tell_ticket_event() returns trigger language plpgsql as $$
begin
  perform pg_notify(
    'ticket_event',
    json_build_object('ticket', new.ticket_number, 'seq', new.seq, 'change', pg_current_xact_id()::text::bigint, 'of', new.what)::text
  );
  return new;
end $$;

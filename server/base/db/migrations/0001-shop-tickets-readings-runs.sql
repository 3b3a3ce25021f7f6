create table shop (
  id int primary key check (id = 1),
  name text not null,
  address text not null,
  region text not null,
  zone text not null,
  -- a digest by the master key of a fixed text: a wrong key is found at the start, not at the first customer
  key_check bytea not null
);

create table staff (
  id bigint generated always as identity primary key,
  name text not null unique,
  initials text not null,
  pin_hash text not null,
  wrong_pins int not null default 0,
  locked_until timestamptz
);

create table session (
  token_hash bytea primary key,
  staff_id bigint not null references staff,
  expires_at timestamptz not null
);

create table api_token (
  token_hash bytea primary key,
  staff_id bigint not null references staff
);

create sequence ticket_number start 401;

create table ticket (
  id bigint generated always as identity primary key,
  number text not null unique default 'T-' || lpad(nextval('ticket_number')::text, 4, '0'),
  -- null once erased; nothing of the customer can be opened without it
  key_wrapped bytea,
  -- sealed: name, telephone number, note
  customer bytea,
  promised_at timestamptz not null,
  waits_in_shop boolean not null,
  booked_by bigint not null references staff,
  created_at timestamptz not null default now(),
  roles_frozen_at timestamptz,
  exchange_answered_at timestamptz,
  -- sealed name
  signed_by bytea,
  signed_at timestamptz,
  handed_back_at timestamptz,
  erased_at timestamptz,
  -- the counts that remain when everything else is gone
  final_ledger jsonb,
  check ((erased_at is null) = (key_wrapped is not null)),
  check (erased_at is null or final_ledger is not null)
);

create table upload (
  id uuid primary key,
  key_wrapped bytea not null,
  size_bytes bigint not null,
  cards int not null,
  revision text not null,
  created_at timestamptz not null default now()
);

create table ticket_phone (
  ticket_id bigint not null references ticket on delete cascade,
  side text not null check (side in ('old', 'new')),
  link text not null check (link in ('standin', 'file')),
  maker text not null,
  model text not null,
  platform text not null check (platform in ('android', 'ios', 'file')),
  version text not null,
  -- national numbers are read by it (ISO 3166); the phone says it when it is first attached
  region text not null default 'GB',
  serial text,
  upload_id uuid references upload,
  -- one open ticket a phone: carrying two customers' data over one cable is how they get mixed
  is_open boolean not null default true,
  primary key (ticket_id, side),
  check (link = 'file' or upload_id is null)
);
create unique index ticket_phone_open on ticket_phone (serial) where is_open and serial is not null;

create table reading (
  id bigint generated always as identity primary key,
  ticket_id bigint not null references ticket on delete cascade,
  side text not null check (side in ('old', 'new')),
  kind text not null,
  purpose text not null check (purpose in ('first', 'recount', 'last', 'probe')),
  state text not null default 'open' check (state in ('open', 'whole', 'torn', 'superseded')),
  phone_revision text,
  -- the phone's own count, entries nobody stored included
  counted int,
  derived int not null default 0,
  also jsonb not null default '{}',
  got int not null default 0,
  unreadable int not null default 0,
  bytes bigint not null default 0,
  canonical_version int not null,
  started_at timestamptz not null default now(),
  ended_at timestamptz,
  check (state <> 'whole' or counted = got + derived)
);
create index reading_ticket on reading (ticket_id, kind, side);

create table item (
  reading_id bigint not null references reading on delete cascade,
  seq int not null,
  native bytea not null,
  digest bytea not null,
  -- what its content will be on the new phone; null for the new phone's own records and for what can't cross
  expected bytea,
  keys bigint[] not null,
  state text not null check (state in ('read', 'unreadable', 'cannot')),
  reason text,
  changes text[] not null,
  has_loss boolean not null,
  storage text not null,
  shape jsonb not null,
  size_bytes int not null,
  block int not null,
  slot smallint not null,
  primary key (reading_id, seq)
);

create table block (
  reading_id bigint not null references reading on delete cascade,
  no int not null,
  family text not null check (family in ('list', 'body')),
  sealed bytea not null,
  primary key (reading_id, family, no)
);
-- sealed bytes don't compress
alter table block alter column sealed set storage external;

create table ticket_kind (
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  mode text not null default 'add' check (mode = 'add'),
  choice text not null default 'all' check (choice in ('all', 'none', 'some')),
  chosen_at timestamptz,
  old_reading bigint references reading,
  first_reading bigint references reading,
  recount_reading bigint references reading,
  last_reading bigint references reading,
  -- the first count is frozen at the first write
  frozen_at timestamptz,
  -- counts what was written, so that a check knows whether it came after the last write
  writes bigint not null default 0,
  checked_writes bigint,
  checked_at timestamptz,
  recounted_at timestamptz,
  -- sealed name
  accepted_by bytea,
  accepted_at timestamptz,
  accepted_short int,
  accepted_over int,
  primary key (ticket_id, kind)
);

-- an item of the old phone and its fate
create table entry (
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  seq int not null,
  reading_id bigint not null references reading,
  item_seq int not null,
  native bytea not null,
  digest bytea not null,
  expected bytea,
  fate text not null check (fate in ('carried', 'changed', 'merged', 'alreadyThere', 'notChosen', 'cannotCross',
    'refused', 'unreadable', 'gone', 'lost', 'undone', 'pending')),
  reasons text[] not null default '{}',
  has_change boolean not null,
  has_loss boolean not null,
  is_late boolean not null default false,
  is_chosen boolean not null default true,
  size_bytes int not null,
  sends int not null default 0,
  -- what the new phone called its record
  written bytea,
  primary key (ticket_id, kind, seq)
);
create index entry_fate on entry (ticket_id, kind, fate, seq);
create index entry_expected on entry (ticket_id, kind, expected);

-- what a record of the new phone's first or last count is
create table origin (
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  side text not null check (side in ('first', 'last')),
  reading_id bigint not null,
  item_seq int not null,
  origin text not null check (origin in ('kept', 'addedTo', 'altered', 'arrived', 'cameOtherwise', 'double',
    'cleared', 'absorbed', 'missing')),
  entry_seq int,
  primary key (ticket_id, kind, side, item_seq)
);
create index origin_what on origin (ticket_id, kind, origin, item_seq);

create table run (
  id bigint generated always as identity primary key,
  ticket_id bigint not null references ticket on delete cascade,
  type text not null check (type in ('count-in', 'carry', 'check-off')),
  state text not null default 'waiting' check (state in ('waiting', 'running', 'paused', 'done', 'stopped')),
  reason text,
  side text check (side in ('old', 'new')),
  step text not null default 'waiting',
  done int not null default 0,
  total int not null default 0,
  epoch int not null default 0,
  lease_owner text,
  lease_until timestamptz,
  retry_at timestamptz,
  started_by bigint references staff,
  started_at timestamptz not null default now(),
  work_started_at timestamptz,
  ended_at timestamptz
);
create index run_ticket on run (ticket_id, id desc);
create index run_open on run (state) where state in ('waiting', 'running', 'paused');

-- at most one active run per phone
create table run_phone (
  run_id bigint not null references run on delete cascade,
  serial text not null,
  is_active boolean not null default true,
  primary key (run_id, serial)
);
create unique index run_phone_active on run_phone (serial) where is_active;

-- decided before it is sent
create table batch (
  id bigint generated always as identity primary key,
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  run_id bigint not null references run on delete cascade,
  epoch int not null,
  state text not null default 'sent' check (state in ('sent', 'settled')),
  sent_at timestamptz not null default now()
);
create index batch_sent on batch (ticket_id, kind) where state = 'sent';

create table batch_item (
  batch_id bigint not null references batch on delete cascade,
  ord int not null,
  entry_seq int not null,
  expected bytea not null,
  primary key (batch_id, ord)
);

-- who was shown what, and why; the application may add to it and never change it
create table showing (
  id bigint generated always as identity primary key,
  ticket_id bigint not null,
  ticket_number text not null,
  staff_id bigint not null references staff,
  scope text not null,
  reason text not null,
  from_at timestamptz not null default now(),
  until_at timestamptz not null
);

create table ticket_event (
  seq bigint generated always as identity primary key,
  ticket_id bigint not null,
  ticket_number text not null,
  what text not null,
  at timestamptz not null default now()
);

create function tell_ticket_event() returns trigger language plpgsql as $$
begin
  perform pg_notify('ticket_event', json_build_object('ticket', new.ticket_number, 'seq', new.seq)::text);
  return new;
end $$;
create trigger ticket_event_tell after insert on ticket_event for each row execute function tell_ticket_event();

-- after bulk load the planner must know what came; only the owner may analyze
create function refresh_item_statistics() returns void language plpgsql security definer as $$
begin
  analyze item;
end $$;
create function refresh_entry_statistics() returns void language plpgsql security definer as $$
begin
  analyze entry;
end $$;

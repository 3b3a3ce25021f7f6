-- a locker: what the copies of one phone share. By its key equal records are told; it goes with the last copy
create table locker (
  id bigint generated always as identity primary key,
  holding_id uuid not null references holding on delete cascade,
  serial_hash bytea not null unique
);

-- a copy of a phone, kept until a date; of one that is destroyed its counts stay, and when and by which rule it went
create table locker_copy (
  id bigint generated always as identity primary key,
  locker_id bigint references locker on delete set null,
  -- whose key opens it; null once it is destroyed
  holding_id uuid references holding on delete set null,
  -- of the layout of what is sealed: a later one is refused untouched
  format int not null default 1,
  ticket_id bigint references ticket on delete set null,
  asked_by bigint not null references staff,
  -- sealed
  customer bytea,
  -- the phone it was copied from, and its dialect's place
  maker text not null default '',
  model text not null default '',
  platform text not null default '',
  version text not null default '',
  region text not null default 'GB',
  zone text not null default 'Europe/London',
  created_at timestamptz not null default now(),
  -- when it was last read back whole
  closed_at timestamptz,
  keep_until timestamptz not null,
  -- who attaches ends the former connection
  connection int not null default 0,
  destroyed_at timestamptz,
  destroyed_how text check (destroyed_how in ('date', 'asked', 'unfinished')),
  destroyed_why text,
  destroyed_by bigint references staff
);
create index locker_copy_due on locker_copy (keep_until) where destroyed_at is null;

create table copy_kind (
  copy_id bigint not null references locker_copy on delete cascade,
  kind text not null,
  items int not null default 0,
  bytes bigint not null default 0,
  -- of them, what an earlier copy of the phone had stored already
  saved_bytes bigint not null default 0,
  next_seq bigint not null default 0,
  writes int not null default 0,
  -- sealed: how many records and bytes it held when it was closed
  manifest bytea,
  -- of its phone's items, what became of them, as it was checked
  fates jsonb,
  primary key (copy_id, kind)
);

-- a record or a file, sealed by a key of its own; each copy that has it holds that key under its own
create table locker_body (
  id bigint generated always as identity primary key,
  locker_id bigint not null references locker on delete cascade,
  digest bytea not null,
  size_bytes bigint not null,
  sealed bytea,
  blob text,
  check ((sealed is null) <> (blob is null))
);
create index locker_body_digest on locker_body (locker_id, digest);

create table copy_record (
  copy_id bigint not null,
  kind text not null,
  seq bigint not null,
  body_id bigint not null references locker_body,
  wrapped bytea not null,
  primary key (copy_id, kind, seq),
  foreign key (copy_id, kind) references copy_kind on delete cascade
);
create index copy_record_body on copy_record (body_id);

-- files by the handle the phone gave them; one whose record is not written yet has none
create table copy_file (
  copy_id bigint not null,
  kind text not null,
  handle bytea not null,
  seq bigint,
  body_id bigint not null references locker_body,
  wrapped bytea not null,
  foreign key (copy_id, kind) references copy_kind on delete cascade
);
create index copy_file_handle on copy_file (copy_id, kind, handle);
create index copy_file_body on copy_file (body_id);

create table copy_act (
  id bigint generated always as identity primary key,
  copy_id bigint not null references locker_copy on delete cascade,
  at timestamptz not null default now(),
  staff_id bigint references staff,
  what text not null check (what in ('prolonged', 'destroyed')),
  before text,
  after text
);

alter table ticket_phone drop constraint ticket_phone_place_check;
alter table ticket_phone add constraint ticket_phone_place_check check (place in ('bench', 'file', 'locker'));
alter table ticket_phone drop constraint ticket_phone_platform_check;
alter table ticket_phone add constraint ticket_phone_platform_check check (platform in ('android', 'ios', 'keypad', 'file', 'locker'));
alter table ticket_phone add column copy_id bigint references locker_copy on delete set null;

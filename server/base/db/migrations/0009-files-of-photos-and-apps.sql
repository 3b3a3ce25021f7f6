-- a film alone may be larger than an int counts
alter table item
  alter column size_bytes type bigint,
  -- keyed hash of the record as the phone gave it, for those whose files were read: the same again, and they need not be
  add column raw bytea;
alter table entry
  alter column size_bytes type bigint,
  -- sealed: what was made at its turn of a file the new phone can't show, or the counterpart of an app
  add column made bytea;
alter table reading add column took_ms int;

-- media count in bytes
alter table run
  alter column done type bigint,
  alter column total type bigint,
  add column unit text not null default 'items' check (unit in ('items', 'bytes')),
  add column kind text,
  -- since when it does what it does now, and how far it was then: a rate is of one kind and one step
  add column step_since timestamptz,
  add column step_from bigint not null default 0;

alter table ticket_kind
  -- what was measured of it: bytes a second, how much a conversion grows and how long it takes
  add column measured jsonb not null default '{}';
alter table ticket
  -- a fragile phone's dearest kind, carried before all others
  add column first_kind text;

-- small pictures for the screen, sealed; made when they are looked at
create table thumbnail (
  reading_id bigint not null references reading on delete cascade,
  seq int not null,
  sealed bytea not null,
  primary key (reading_id, seq)
);
alter table thumbnail alter column sealed set storage external;

-- a shop's own word on which app stands in for another on a platform; app ids are a catalogue's, no customer's
create table counterpart (
  app_id text not null,
  platform text not null,
  -- null: none
  counterpart_id text,
  staff_id bigint not null references staff,
  at timestamptz not null default now(),
  primary key (app_id, platform)
);

-- an app that is tied to the old phone, moved by hand
create table tied_moved (
  ticket_id bigint not null references ticket on delete cascade,
  native bytea not null,
  staff_id bigint not null references staff,
  at timestamptz not null default now(),
  primary key (ticket_id, native)
);

-- what is taken home as files is made of a copy of its own, which no list of lockers shows; it goes with its ticket
alter table locker_copy add column purpose text not null default 'keep' check (purpose in ('keep', 'take-home'));

alter table ticket_phone drop constraint ticket_phone_place_check;
alter table ticket_phone add constraint ticket_phone_place_check check (place in ('bench', 'file', 'locker', 'nothing', 'folder'));
alter table ticket_phone drop constraint ticket_phone_platform_check;
alter table ticket_phone add constraint ticket_phone_platform_check
  check (platform in ('android', 'ios', 'keypad', 'file', 'locker', 'folder'));
-- sealed: what the customer wants the archive locked with
alter table ticket_phone add column archive_password bytea;

-- the archive of a copy, made when all of it is written and proved by another reader than the one that wrote it
create table archive (
  copy_id bigint primary key references locker_copy on delete cascade,
  -- a sealed blob of the copy's holding; null once its hour is over
  blob text,
  size_bytes bigint not null,
  -- how often the copy had been written to when it was made: of another number it is not the copy's any more
  writes bigint not null,
  -- by kind: how many items its file holds, and the digest of all that is of it
  kinds jsonb not null,
  files int not null,
  -- the beginning of its list's digest: what a customer's copy is told by
  mark text not null,
  has_password boolean not null,
  made_at timestamptz not null default now(),
  keep_until timestamptz not null,
  taken_at timestamptz
);
create index archive_due on archive (keep_until) where blob is not null;

-- a part is its bytes, pieces of them, or how they are made: a phone holds more than fits into one row
alter table part
  alter column bytes drop not null,
  add column size_bytes bigint not null default 0,
  add column made jsonb;
update part set size_bytes = length(bytes);
create table part_piece (
  serial text not null,
  kind text not null,
  handle text not null,
  n int not null,
  bytes bytea not null,
  primary key (serial, kind, handle, n),
  foreign key (serial, kind, handle) references part on delete cascade
);
alter table part_piece alter column bytes set storage external;
alter table record alter column size_bytes type bigint;
-- which of its files a record holds, by handle: they go when it goes
create index part_loose on part (serial) where record_id is null;

-- lists of apps to install, under a code that says nothing
create table install_list (
  code text primary key,
  platform text not null,
  ids text[] not null,
  at timestamptz not null default now()
);

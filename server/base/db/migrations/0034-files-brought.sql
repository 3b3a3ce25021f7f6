-- files somebody brings, each in pieces as they come: what breaks off goes on, and is known again by size, time and beginning
create table upload_file (
  upload_id uuid not null references upload on delete cascade,
  no int not null,
  -- sealed: its path
  path bytea not null,
  size_bytes bigint not null,
  modified_at timestamptz not null,
  mark bytea not null,
  got_bytes bigint not null default 0,
  primary key (upload_id, no)
);

-- which items of one side a comparison found changed on the other
create index origin_entry on origin (ticket_id, kind, entry_seq) where origin = 'altered' and entry_seq is not null;

alter table upload
  add column state text not null default 'sorted' check (state in ('taking', 'sorting', 'sorted', 'locked', 'refused')),
  -- 1: a calendar lies as it came; 2: every kind lies as its standard file, and pictures where they came
  add column layout int not null default 1,
  add column problem text,
  add column unreadable int not null default 0,
  add column touched_at timestamptz not null default now(),
  -- sealed: what opens its ZIPs
  add column secret bytea,
  -- sealed: what was not taken, by name, size and why
  add column list bytea,
  -- how the phone its files were made of tells numbers and times
  add column place jsonb;

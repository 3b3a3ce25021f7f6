-- what belongs to a message and is streamed by a handle of its own; one that no record names goes with the session
create table part (
  serial text not null references phone on delete cascade,
  kind text not null,
  handle text not null,
  record_id bigint,
  bytes bytea not null,
  primary key (serial, kind, handle)
);
create index part_record on part (serial, kind, record_id);
alter table part alter column bytes set storage external;
-- what the phone itself counts as one conversation
alter table record add column thread text;

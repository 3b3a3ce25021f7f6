-- when it happened: lists show it, years are counted by it, and a phone that keeps only the newest is filled by it
alter table item add column at timestamptz;
-- local times a phone gives are read by it (IANA); the phone says it when it is attached
alter table ticket_phone add column zone text not null default 'Europe/London';

-- a phone that joins equal contacts looks for them by name, also among many thousands
alter table record add column name text;
create index record_name on record (serial, kind, name) where name is not null;

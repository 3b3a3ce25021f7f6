-- which phones a ticket had is told by a keyed hash once it is erased: a phone that comes again is known, and no serial is kept
alter table ticket_phone add column serial_hash bytea;
create index ticket_phone_hash on ticket_phone (serial_hash) where serial_hash is not null;

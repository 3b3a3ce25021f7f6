-- a copy may be closed by a passphrase of the customer's: its key is then wrapped by that, too, and nobody can recover it
alter table locker_copy
  -- how the passphrase becomes a key (RFC 9106): salt, and what it costs
  add column passphrase jsonb,
  add column wrong_tries int not null default 0,
  add column wait_until timestamptz;
-- the key of a closed copy while a ticket reads from it, sealed by the ticket's
alter table ticket_phone add column copy_key bytea;

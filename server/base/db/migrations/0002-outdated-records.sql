-- an item edited after its turn left its former content on the new phone, under this id; it must not pass for the customer's
alter table entry add column outdated bytea;

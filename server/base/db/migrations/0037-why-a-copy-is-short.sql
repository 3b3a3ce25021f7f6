-- of the items of a copy's phone that it does not hold, by fate and by their reasons together, how many: what it is short
-- of opens to that once the ticket and its items are erased
alter table copy_kind add column whys jsonb;

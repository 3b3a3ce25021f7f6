-- a holding's wrapped key is a file outside the database; what the database wrote before is moved at the next start
alter table ticket drop constraint ticket_check;
alter table ticket add column holding_id uuid unique;
alter table ticket add constraint ticket_key_check check (erased_at is not null or key_wrapped is not null or holding_id is not null);
alter table upload alter column key_wrapped drop not null;
-- what the shop remembers of counterparts names no time
alter table counterpart drop column at;

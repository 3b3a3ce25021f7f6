-- a write of one kind leaves the others' revision as it is
alter table phone add column kind_revisions jsonb not null default '{}';
-- when it happened, for kinds of which a phone keeps only the newest
alter table record add column at_ms bigint;

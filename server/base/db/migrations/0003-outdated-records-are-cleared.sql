-- what the record an edited item left behind said when we wrote it: only that, unchanged, may be taken away again
alter table entry add column outdated_digest bytea;
create index entry_outdated on entry (ticket_id, kind) where outdated is not null;
alter table reading add column derived_of jsonb not null default '{}';

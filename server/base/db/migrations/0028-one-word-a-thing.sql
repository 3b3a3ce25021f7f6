-- what a count found of a record of ours; what a phone reported of a need; when a session was last used
alter table written rename column was_seen to was_found;
alter table need_seen rename to need_report;
alter table session rename column seen_at to used_at;
alter table browser rename column seen_at to used_at;
update run set reason = 'FileChanged' where reason = 'PartChanged';
update run set reason = 'ConnectionTaken' where reason = 'SessionTaken';
update ticket_act set why = 'FileChanged' where why = 'PartChanged';
update ticket_act set why = 'ConnectionTaken' where why = 'SessionTaken';

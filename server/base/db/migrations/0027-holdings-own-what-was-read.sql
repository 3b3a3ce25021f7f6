-- who owns sealed contents: a ticket, dropped files, later a locker or a look; it goes with all that it owns
create table holding (
  id uuid primary key,
  purpose text not null check (purpose in ('ticket', 'file', 'locker', 'look')),
  keep_until timestamptz,
  created_at timestamptz not null default now()
);
-- keys that still stand in the database are moved out at the next start, under the holding they get here
update ticket set holding_id = gen_random_uuid() where holding_id is null and key_wrapped is not null;
insert into holding (id, purpose)
select holding_id, 'ticket' from ticket where holding_id is not null
union all
select id, 'file' from upload;
alter table ticket add foreign key (holding_id) references holding on delete set null;

-- dropped files are a holding, and what they hold is told by kind alone
update upload
   set kinds = jsonb_build_object('contacts', jsonb_build_object('items', cards, 'sizeBytes', size_bytes, 'revision', revision))
 where kinds = '{}';
alter table upload drop column cards, drop column revision;
alter table upload add foreign key (id) references holding on delete cascade;
alter table ticket_phone drop constraint ticket_phone_upload_id_fkey;
alter table ticket_phone add foreign key (upload_id) references upload on delete set null;

-- what was read belongs to a holding; of the places in it, which one it was read from is told by its name
alter table reading add column holding_id uuid references holding on delete cascade;
update reading r set holding_id = t.holding_id from ticket t where t.id = r.ticket_id;
alter table reading alter column holding_id set not null;
alter table reading drop column ticket_id;
alter table reading rename column side to place;
alter table reading drop constraint reading_side_check;
create index reading_holding on reading (holding_id, kind, place);

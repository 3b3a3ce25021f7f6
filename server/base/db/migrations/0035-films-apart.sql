-- films stand on a row of their own; what was counted before keeps them under photos to its end
alter table ticket_phone add column films_in_photos boolean not null default false;
alter table locker_copy add column films_in_photos boolean not null default false;
alter table upload add column films_in_photos boolean not null default false;
update locker_copy set films_in_photos = true;
update upload set films_in_photos = true;
update ticket_phone p
   set films_in_photos = true
 where exists (select 1 from ticket_kind k where k.ticket_id = p.ticket_id and k.kind = 'photos' and (k.old_reading is not null or k.first_reading is not null))
    or exists (select 1 from ticket_phone o where o.ticket_id = p.ticket_id and o.side = 'old' and o.place in ('file', 'locker'));

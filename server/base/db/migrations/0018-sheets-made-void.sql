-- figures that moved after the signature void a sheet: it is kept, and the ticket is signed anew
alter table sheet add column voided_at timestamptz;
update sheet s
   set voided_at = now()
 where exists (select 1 from sheet later where later.ticket_id = s.ticket_id and later.id > s.id);
create unique index sheet_in_force on sheet (ticket_id) where voided_at is null;

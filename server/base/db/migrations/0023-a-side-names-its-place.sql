-- a ticket's side names the place it is read from or written to, not the program that stands in for it
alter table ticket_phone drop constraint ticket_phone_link_check;
alter table ticket_phone rename column link to place;
update ticket_phone set place = 'bench' where place = 'standin';
alter table ticket_phone add constraint ticket_phone_place_check check (place in ('bench', 'file'));

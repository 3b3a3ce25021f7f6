-- a look into a copy: a case of its own, with the copy as its old side and nothing as its new one; counted in and never carried
alter table ticket add column purpose text not null default 'carry' check (purpose in ('carry', 'look'));
alter table ticket_phone drop constraint ticket_phone_place_check;
alter table ticket_phone add constraint ticket_phone_place_check check (place in ('bench', 'file', 'locker', 'nothing'));

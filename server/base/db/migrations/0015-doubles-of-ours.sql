-- a second record of one item, found by a check after something was written: it goes only when that is asked for
alter table written add column is_double boolean not null default false;

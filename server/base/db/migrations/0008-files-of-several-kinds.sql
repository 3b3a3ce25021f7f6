-- what a dropped file holds: by kind how many items, bytes and a digest, each kept in a sealed file of its own;
-- empty for a file taken in before: contacts in one sealed file
alter table upload add column kinds jsonb not null default '{}';
alter table upload add column others int not null default 0;

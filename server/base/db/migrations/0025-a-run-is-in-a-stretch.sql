-- the kinds that go one after the other are a stretch of the line; a part is a further record of an item
alter table run rename column part to stretch;

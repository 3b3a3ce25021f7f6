-- one word a thing: what a record has beside itself is a file; a part is a further record of an item
alter table part rename to file;
alter table part_piece rename to file_piece;
update fault set point = 'file' || substr(point, 5) where point like 'part.%';

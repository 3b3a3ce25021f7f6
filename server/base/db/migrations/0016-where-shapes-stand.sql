-- which items of a whole reading have a shape that may be asked for, or happened in a month: their places, a thousand
-- places of the reading a row, so that a page of them is found without walking over all the others
create table item_tag (
  reading_id bigint not null references reading on delete cascade,
  tag text not null,
  part int not null,
  seqs int[] not null,
  primary key (reading_id, tag, part)
);

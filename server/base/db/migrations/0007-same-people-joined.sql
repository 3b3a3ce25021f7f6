-- an item of the old phone and a record of the first count that are the same person's: kept both, or joined into one
create table joining (
  ticket_id bigint not null references ticket on delete cascade,
  kind text not null,
  entry_seq int not null,
  -- the record of the first count
  reading_id bigint not null references reading on delete cascade,
  item_seq int not null,
  native bytea not null,
  -- what the two share: name, phone, email
  shared text[] not null,
  -- fields that stand against joining: one record can't say both
  conflicts text[] not null,
  decision text not null default 'keep' check (decision in ('keep', 'join')),
  -- open: nothing sent; sent: on its way; joined; undoing; undone
  state text not null default 'open' check (state in ('open', 'sent', 'joined', 'undoing', 'undone')),
  -- the record as it was, sealed, and its content; stored before anything is sent
  before bytea,
  before_digest bytea,
  joined_digest bytea,
  primary key (ticket_id, kind, entry_seq),
  check (state = 'open' or before is not null),
  check (decision = 'keep' or conflicts = '{}')
);
create unique index joining_record on joining (reading_id, item_seq);

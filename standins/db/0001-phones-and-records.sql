-- The phones' own memory. The application's role has no right to this database.
create table phone (
  serial text primary key,
  model text not null,
  version text not null,
  region text not null,
  port int unique check (port between 1 and 8),
  is_locked boolean not null default false,
  trust text not null default 'none' check (trust in ('none', 'asked', 'trusted', 'refused')),
  asked_since timestamptz,
  allows_contacts boolean not null default true,
  battery int not null default 80 check (battery between 0 and 100),
  is_charging boolean not null default true,
  total_bytes bigint not null default 64000000000,
  free_bytes bigint not null default 20000000000,
  temperature real not null default 27,
  settle_ms int not null default 1500,
  drops_when_full boolean not null default false,
  joins_equal boolean not null,
  marked_until timestamptz,
  revision bigint not null default 1,
  next_id bigint not null default 1,
  position int not null default 0
);

create table record (
  serial text not null references phone on delete cascade,
  kind text not null,
  id bigint not null,
  storage text not null,
  linked_to bigint,
  data jsonb not null,
  size_bytes int not null,
  -- until then the phone is still sorting it in, and neither lists nor counts it
  visible_at timestamptz not null default now(),
  revision bigint not null default 1,
  damage text,
  primary key (serial, kind, id)
);
create index record_visible on record (serial, kind, visible_at);

-- a fault waits at a point: after `skip` passings it happens `times` times
create table fault (
  id bigint generated always as identity primary key,
  serial text not null references phone on delete cascade,
  point text not null,
  effect text not null,
  skip int not null default 0,
  times int not null default 1
);

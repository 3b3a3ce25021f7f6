-- ticket numbers are given inside the booking: one that is refused uses none up
alter table shop add column next_number int not null default 401;
update shop set next_number = greatest(401, (select last_value + is_called::int from ticket_number));
alter table ticket alter column number drop default;
drop sequence ticket_number;

-- a session ends when nobody uses it for as long as the shop says
alter table shop add column idle_minutes int not null default 240 check (idle_minutes between 5 and 1440);
alter table session add column id bigint generated always as identity;
alter table session add column seen_at timestamptz not null default now();
alter table session add column created_at timestamptz not null default now();
create unique index session_id on session (id);

-- tries at signing in, by a digest of the name and where they come from; counted before the PIN is looked at
create table sign_in_try (
  who bytea primary key,
  fails int not null,
  until timestamptz,
  may boolean not null,
  at timestamptz not null default now()
);
-- browsers somebody signed in from before: what others try does not lock them out
create table browser (
  token_hash bytea primary key,
  staff_id bigint not null references staff on delete cascade,
  seen_at timestamptz not null default now()
);
alter table staff drop column wrong_pins, drop column locked_until;

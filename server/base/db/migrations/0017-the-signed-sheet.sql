-- what was printed and signed, as it was: figures and reasons in clear, all of it sealed; a later signature makes
-- another, and every one is kept
create table sheet (
  id bigint generated always as identity primary key,
  ticket_id bigint not null references ticket on delete cascade,
  signed_at timestamptz not null default now(),
  -- of the bytes that are sealed
  digest bytea not null,
  clear jsonb not null,
  sealed bytea not null,
  -- of the figures as they stood once it was signed: others void it
  figures bytea not null
);
create index sheet_ticket on sheet (ticket_id, id desc);

-- when its sheet was last printed: erasing without one is asked about
alter table ticket add column printed_at timestamptz;
-- sealed: the apps on the customer's list and the link that its code opens, made once
alter table ticket add column install_list bytea;

-- a page that has looked since the change was made need not look again: the event says which transaction made it
create or replace function tell_ticket_event() returns trigger language plpgsql as $$
begin
  perform pg_notify(
    'ticket_event',
    json_build_object('ticket', new.ticket_number, 'seq', new.seq, 'change', pg_current_xact_id()::text::bigint)::text
  );
  return new;
end $$;

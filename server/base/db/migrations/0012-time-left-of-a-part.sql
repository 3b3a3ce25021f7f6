-- how far the whole part of a run is, in seconds as they are usual; what was measured since it began, or was taken up again
alter table run
  add column part text,
  add column usual_done double precision not null default 0,
  add column usual_total double precision not null default 0,
  add column measured_since timestamptz,
  add column measured_from double precision not null default 0;

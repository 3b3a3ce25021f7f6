-- everything fingers change on a phone before anything is carried
alter table phone
  add column setup text not null default 'set-up' check (setup in ('in-box', 'welcome', 'set-up')),
  add column is_on boolean not null default true,
  add column cable text not null default 'data' check (cable in ('data', 'slow', 'charge-only')),
  -- a port that fell asleep shows nothing until the phone is plugged in again
  add column is_asleep boolean not null default false,
  add column falls_back boolean not null default false,
  add column trust_once boolean not null default false,
  -- settings by name; one that is true meets the need of the same name
  add column switches jsonb not null default '{}',
  add column build_taps int not null default 0,
  add column allows text[] not null default '{contacts,messages,calls,calendar,photos}',
  -- what the computer asked the phone for: its helper, permissions, the message app role
  add column wants jsonb,
  add column wants_since timestamptz,
  -- a question nobody answers goes by after so long
  add column prompt_ms int not null default 600000,
  add column locks_after_ms int,
  add column touched_at timestamptz not null default now(),
  -- battery and temperature move by themselves
  add column is_live boolean not null default false,
  add column heat_per_write real not null default 0,
  -- contacts its account will still sync in by itself
  add column sync_left int not null default 0,
  add column has_work_area boolean not null default false,
  add column marked_text text not null default '';
update phone set allows = array_remove(allows, 'contacts') where not allows_contacts;
alter table phone drop column allows_contacts;

-- LED walls: their panels, who drives which of them, and how they are wired.
update device_type set data = '{"panel": null, "drivesWall": null}'::jsonb || data;

create table wall (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  name text not null,
  panel text not null,
  processor_id text,
  columns jsonb not null,
  surfaces jsonb not null,
  parts jsonb not null,
  numbered_from text not null,
  strings jsonb not null,
  bits integer not null check (bits in (8, 10, 12)),
  rate text not null,
  loop boolean not null,
  loop_in_file boolean not null,
  volts integer not null check (volts between 100 and 260),
  phases integer not null check (phases in (1, 3)),
  program jsonb not null,
  profile jsonb not null,
  player jsonb not null,
  captured jsonb,
  first_channel jsonb,
  found jsonb not null,
  stored boolean not null,
  primary key (show_id, id)
);

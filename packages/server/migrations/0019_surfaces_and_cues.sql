-- What each control of a surface does, the channels that surfaces cover, and the running order.
update device_type set data = '{"controls": [], "layers": 1, "lists": [], "sendsOnly": []}'::jsonb || data;

create table control (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  label text not null,
  kind text not null,
  "row" integer not null check ("row" between 0 and 63),
  "column" integer not null check ("column" between 0 and 63),
  address text not null,
  least double precision not null,
  greatest double precision not null,
  region jsonb,
  primary key (show_id, id),
  check (least <> greatest),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred
);
create index control_device on control (show_id, device_id);

create table assignment (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  control text not null,
  layer integer check (layer between 0 and 99),
  part text not null,
  does text not null,
  target_id text,
  service_key text,
  command text,
  args jsonb not null,
  drives text,
  transfer jsonb,
  among text[] not null,
  number integer check (number between 0 and 999),
  machine text,
  feedback text,
  label text not null,
  primary key (show_id, id),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred,
  foreign key (show_id, target_id) references device (show_id, id) deferrable initially deferred
);
create index assignment_device on assignment (show_id, device_id);
create index assignment_target on assignment (show_id, target_id);

create table bank (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  target_id text not null,
  service_key text not null,
  command text not null,
  channel text not null,
  level text not null,
  place integer not null check (place between 0 and 999),
  "offset" integer check ("offset" between 0 and 9999),
  odd text not null,
  primary key (show_id, id),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred,
  foreign key (show_id, target_id) references device (show_id, id) deferrable initially deferred
);
create index bank_device on bank (show_id, device_id);
create index bank_target on bank (show_id, target_id);

create table cue (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  number double precision not null check (number between 0 and 99999),
  name text not null,
  controller_id text not null,
  enabled boolean not null,
  starts jsonb not null,
  messages jsonb not null,
  note text not null,
  proved jsonb,
  primary key (show_id, id),
  foreign key (show_id, controller_id) references device (show_id, id) deferrable initially deferred
);
create index cue_controller on cue (show_id, controller_id);

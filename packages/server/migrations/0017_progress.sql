-- How far the bring-up of each unit has come, and what is true of it now that neither the plan nor what was keyed in says.
create table progress (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  joined boolean not null,
  signed_in boolean not null,
  shows jsonb,
  due jsonb not null,
  held jsonb,
  meantime jsonb,
  confirmed jsonb not null,
  taken jsonb,
  "left" jsonb not null,
  log jsonb not null,
  holds integer check (holds between 1 and 64),
  accepted jsonb,
  adapters jsonb not null,
  primary key (show_id, id),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred
);
create index progress_device on progress (show_id, device_id);

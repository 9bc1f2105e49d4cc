-- One typed table an entity; every row names its show and the show's revision at which it was last changed.
-- Foreign keys are checked at commit, so that one change may remove and add rows in any order.

create table show (
  id text primary key check (id ~ '^[a-z0-9][a-z0-9-]{0,39}$'),
  name text not null,
  subtitle text not null default '',
  rev integer not null default 0,
  created_at timestamptz not null default now()
);

-- Device passwords, encrypted with a key that is kept outside the database. Rows are never changed: a new password
-- is a new row, so that taking a change back also takes the password back.
create table secret (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  sealed bytea not null,
  created_at timestamptz not null default now(),
  primary key (show_id, id)
);

create table device_type (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  name text not null,
  kind text not null,
  data jsonb not null,
  primary key (show_id, id)
);

create table network (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  name text not null,
  subnet cidr not null,
  vlan integer check (vlan between 1 and 4094),
  purpose text not null,
  gateway inet,
  pool_from inet,
  pool_to inet,
  primary key (show_id, id)
);

create table block (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  network_id text not null,
  label text not null,
  kinds text[] not null,
  first inet not null,
  last inet not null,
  primary key (show_id, id),
  foreign key (show_id, network_id) references network (show_id, id) deferrable initially deferred
);

create table device (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  type_id text not null,
  name text not null,
  unit integer check (unit between 0 and 9999),
  place text not null,
  firmware text,
  note text not null,
  primary key (show_id, id),
  foreign key (show_id, type_id) references device_type (show_id, id) deferrable initially deferred
);

create table interface (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  adapter text not null,
  mac macaddr,
  primary key (show_id, id),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred
);

create table address (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  interface_id text not null,
  network_id text not null,
  ip inet,
  prefix integer check (prefix between 1 and 32),
  gateway inet,
  held boolean not null,
  primary key (show_id, id),
  foreign key (show_id, interface_id) references interface (show_id, id) deferrable initially deferred,
  foreign key (show_id, network_id) references network (show_id, id) deferrable initially deferred
);

create table cable (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  from_device text not null,
  from_socket text not null,
  to_device text not null,
  to_socket text not null,
  medium text not null check (medium in ('copper', 'fibre', 'wireless')),
  length_m double precision check (length_m >= 0),
  primary key (show_id, id),
  foreign key (show_id, from_device) references device (show_id, id) deferrable initially deferred,
  foreign key (show_id, to_device) references device (show_id, id) deferrable initially deferred
);

create table service (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  key text not null,
  enabled boolean not null,
  receive_port integer not null check (receive_port between 1 and 65535),
  send_port integer check (send_port between 1 and 65535),
  send_to inet,
  account text,
  secret_id text,
  primary key (show_id, id),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred,
  foreign key (show_id, secret_id) references secret (show_id, id) deferrable initially deferred
);

create table link (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  controller_id text not null,
  target_id text not null,
  service_key text not null,
  slot integer check (slot between 0 and 9999),
  host inet,
  port integer not null check (port between 1 and 65535),
  reply_port integer check (reply_port between 1 and 65535),
  account text,
  secret_id text,
  command text,
  args jsonb not null,
  primary key (show_id, id),
  foreign key (show_id, controller_id) references device (show_id, id) deferrable initially deferred,
  foreign key (show_id, target_id) references device (show_id, id) deferrable initially deferred,
  foreign key (show_id, secret_id) references secret (show_id, id) deferrable initially deferred
);

-- The audit trail: what every revision changed, by whom, and what it took back or did again.
create table change (
  show_id text not null references show (id) on delete cascade,
  rev integer not null,
  id text not null,
  kind text not null check (kind in ('do', 'undo', 'redo')),
  of_rev integer,
  label text not null,
  author text not null,
  at timestamptz not null default now(),
  edits jsonb not null,
  primary key (show_id, rev),
  unique (show_id, id)
);
create index change_by_author on change (show_id, author, rev desc);

-- What is known of reality, kept apart from the plan.
create table observation (
  show_id text not null references show (id) on delete cascade,
  kind text not null,
  subject_id text not null,
  source text not null,
  value jsonb not null,
  at timestamptz not null default now(),
  primary key (show_id, kind, subject_id)
);

-- Every foreign key has an index: without one, removing many rows looks through the whole child table for each.
create index block_network on block (show_id, network_id);
create index device_by_type on device (show_id, type_id);
create index interface_device on interface (show_id, device_id);
create index address_interface on address (show_id, interface_id);
create index address_network on address (show_id, network_id);
create index cable_from on cable (show_id, from_device);
create index cable_to on cable (show_id, to_device);
create index service_device on service (show_id, device_id);
create index service_secret on service (show_id, secret_id);
create index link_controller on link (show_id, controller_id);
create index link_target on link (show_id, target_id);
create index link_secret on link (show_id, secret_id);

-- What a cut starts and after how many frames, what players have in their lists, and the chain of time code.
update device_type set data = '{"plays": null, "timecode": null}'::jsonb || data;

alter table device add column rate text;
alter table device add column take_delay integer check (take_delay between 0 and 250);
alter table device add column leads boolean not null default false;
alter table device alter column leads drop default;
alter table device add column used_for text not null default '';
alter table device alter column used_for drop default;

create table input_rule (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  switcher_id text not null,
  input integer not null check (input between 1 and 1000),
  goes text not null,
  leaves text not null,
  offers text not null,
  list text not null,
  channel text not null,
  measured jsonb,
  primary key (show_id, id),
  foreign key (show_id, switcher_id) references device (show_id, id) deferrable initially deferred
);
create index input_rule_switcher on input_rule (show_id, switcher_id);

create table clip (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  list text not null,
  place integer not null check (place between 0 and 100000),
  name text not null,
  seconds double precision check (seconds between 0 and 86400),
  form jsonb,
  title text not null,
  actions jsonb not null,
  primary key (show_id, id),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred
);
create index clip_device on clip (show_id, device_id);

create table time_hop (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  from_id text not null,
  to_id text not null,
  format text not null,
  says text not null,
  hears text not null,
  input text not null,
  primary key (show_id, id),
  foreign key (show_id, from_id) references device (show_id, id) deferrable initially deferred,
  foreign key (show_id, to_id) references device (show_id, id) deferrable initially deferred
);
create index time_hop_from on time_hop (show_id, from_id);
create index time_hop_to on time_hop (show_id, to_id);

-- What was keyed into each unit, papers and people, IPv6 after the first contact, accounts, known delays of cables.

alter table device
  add column ipv6 text not null default 'as_delivered' check (ipv6 in ('as_delivered', 'off')),
  add column accounts jsonb not null default '[]';
alter table cable add column delay_ms double precision check (delay_ms between 0 and 10000);
update device_type set data = data || '{"price": null}'::jsonb;

create table keyed_in (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  device_id text not null,
  "values" jsonb not null,
  primary key (show_id, id),
  foreign key (show_id, device_id) references device (show_id, id) deferrable initially deferred
);
create index keyed_in_device on keyed_in (show_id, device_id);

-- The bytes of papers, named by their SHA-256: the same manual is kept once a show, and undo finds it again.
create table file (
  show_id text not null references show (id) on delete cascade,
  id text not null check (id ~ '^[0-9a-f]{64}$'),
  body bytea not null check (octet_length(body) <= 20000000),
  primary key (show_id, id)
);

create table document (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  model text,
  title text not null,
  file_id text not null,
  bytes integer not null,
  primary key (show_id, id),
  foreign key (show_id, file_id) references file (show_id, id) deferrable initially deferred
);
create index document_file on document (show_id, file_id);

create table contact (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  name text not null,
  knows text not null,
  reach text not null,
  primary key (show_id, id)
);

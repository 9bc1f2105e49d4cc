-- Papers in parts of 256 KiB, so that nobody ever holds a whole one in memory.
create table file_part (
  show_id text not null,
  id text not null,
  part integer not null check (part >= 0),
  body bytea not null,
  primary key (show_id, id, part),
  foreign key (show_id, id) references file (show_id, id) on delete cascade
);
insert into file_part (show_id, id, part, body)
  select f.show_id, f.id, n, substring(f.body from n * 262144 + 1 for 262144)
    from file f, generate_series(0, (octet_length(f.body) - 1) / 262144) as n;
alter table file drop column body;

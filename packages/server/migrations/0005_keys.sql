-- A value sealed with the key of the passwords: a lost or exchanged key is noticed at the start.
create table key_check (
  only_one boolean primary key default true check (only_one),
  sealed bytea not null
);

-- Equal passwords of one show are one row. The digest is keyed, so that nothing can be guessed from it without the key;
-- rows of earlier releases get theirs when the server has the key.
alter table secret add column digest bytea;
create unique index secret_by_digest on secret (show_id, digest);

-- Passwords that were sent and that no row names yet: under an id of their own, which tells nothing about them.
create table offered_secret (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  sealed bytea not null,
  digest bytea not null,
  at timestamptz not null default now(),
  primary key (show_id, id)
);

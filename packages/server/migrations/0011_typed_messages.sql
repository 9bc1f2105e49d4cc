-- A message as somebody typed it that no command of its target reads.
alter table link add column typed text not null default '';

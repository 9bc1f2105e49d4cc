-- The group of peers that a computer's programs meet in.
alter table device add column peers text not null default '';
alter table device alter column peers drop default;

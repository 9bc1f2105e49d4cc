-- How each output of a machine shows what is open.
alter table device add column outputs jsonb not null default '[]'::jsonb;
alter table device alter column outputs drop default;

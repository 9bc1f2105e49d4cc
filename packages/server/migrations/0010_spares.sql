-- How often a spare took the place of a unit: what was proved of the one before says nothing of it.
alter table device add column swaps integer not null default 0 check (swaps >= 0);

-- A target that replies to a list of addresses has more than one of them.
alter table service add column also_to inet[] not null default '{}';

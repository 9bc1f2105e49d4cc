-- Names that stood in a unit's own lists when they were last taken over, where these are others than its type's.
alter table device add column names jsonb not null default '[]';
alter table device alter column names drop default;

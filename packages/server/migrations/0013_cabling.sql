-- What a run's jacket says, and whether it is plugged in for setting up, for the show, or for both.
alter table cable add column grade text check (grade in ('cat5e', 'cat6', 'cat6a', 'om3', 'om4', 'os2'));
alter table cable add column stage text not null default 'both' check (stage in ('both', 'setup', 'show'));
-- No single loss may stop a link that must hold.
alter table link add column must_hold boolean not null default false;
-- What a unit's power comes from.
alter table device add column circuit text not null default '';

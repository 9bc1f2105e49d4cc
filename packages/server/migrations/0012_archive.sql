-- A show that is over stays, out of the way of those that are worked on.
alter table show add column archived boolean not null default false;

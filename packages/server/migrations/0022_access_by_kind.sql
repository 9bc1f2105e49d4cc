-- Kinds of clients that access to a service was opened for, where it asks for that.
alter table service add column open_for text[] not null default '{}';
alter table service alter column open_for drop default;

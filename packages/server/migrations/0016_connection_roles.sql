-- Which end of a connection waits for the other one, and which opens it.
alter table service add column role text check (role in ('waits', 'opens'));
alter table link add column role text not null default 'opens' check (role in ('waits', 'opens'));

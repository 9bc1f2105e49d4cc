-- Inputs of a switcher as they are declared in it, and who may when of several controllers.
alter table device add column inputs jsonb not null default '[]';
alter table device add column sharing text not null default '';
-- The link that sets another one off, where that is not plain from who controls whom.
alter table link add column "after" text;

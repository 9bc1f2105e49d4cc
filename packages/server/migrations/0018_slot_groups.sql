-- Controllers that sort their targets into groups count the slots of each anew.
alter table link add column slot_group integer check (slot_group between 0 and 999);

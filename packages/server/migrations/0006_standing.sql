-- Whether a change still stands, so that the next one to take back is found at once however long the history is.
alter table change add column taken boolean not null default false;
update change c set taken = true from change later where later.show_id = c.show_id and later.of_rev = c.rev;
create index change_standing on change (show_id, author, kind, rev) where not taken;

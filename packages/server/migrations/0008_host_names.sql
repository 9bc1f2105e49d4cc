-- What a unit calls itself on the wire (RFC 1123), where that is not its name in the rig.
alter table device add column host_name text not null default '';

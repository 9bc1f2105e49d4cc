-- VLANs of single sockets of a managed switch, where somebody set them otherwise than the plan would.
alter table device add column socket_vlans jsonb not null default '[]';

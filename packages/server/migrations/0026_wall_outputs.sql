-- What sends into a wall, how its processors are managed, and how the player gets to it.
alter table wall
  add column sender text not null default 'device' check (sender in ('device', 'card')),
  add column card text,
  add column managed text check (managed in ('local', 'remote')),
  add column distance_m double precision check (distance_m between 0 and 10000),
  add column player_output jsonb not null default
    '{"deviceId": null, "kind": null, "adapter": null, "start": "top_left", "enabled": false, "saved": false, "restarted": false}';
alter table wall
  alter column sender drop default,
  alter column player_output drop default;

update device_type set data = jsonb_set(data, '{drivesWall,unitOutputs}', 'null')
  where jsonb_typeof(data -> 'drivesWall') = 'object';

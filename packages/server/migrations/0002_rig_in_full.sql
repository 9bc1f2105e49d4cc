-- Device types become whole definitions in ordered libraries; units, networks, addresses, services and links learn
-- what the rig and its addresses need. What exists keeps its meaning: every new column has the value that says
-- "as before".

create table library (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  name text not null,
  position integer not null check (position between 0 and 100000),
  primary key (show_id, id)
);
insert into library (show_id, id, rev, name, position)
  select id, 'shipped', rev, 'Shipped types', 1000 from show;

alter table device_type add column library_id text not null default 'shipped';
alter table device_type alter column library_id drop default;
alter table device_type add foreign key (show_id, library_id)
  references library (show_id, id) deferrable initially deferred;
create index type_library on device_type (show_id, library_id);

-- The new shape of a type: free words about where it is set become ways, the restart becomes a commit, one login
-- method becomes the list of methods.
update device_type t set data = (t.data - 'setFrom' - 'restartsAfterAddress') || jsonb_build_object(
  'libraryId', 'shipped',
  'model', t.id,
  'version', '1.0',
  'form', 'unit',
  'managed', t.id = 'managed-switch',
  'variants', '[]'::jsonb,
  'factory', t.data->'factory' || '{"linkLocal6": false, "login": "none", "account": null}'::jsonb,
  'sockets', coalesce((
    select jsonb_agg(s || '{"role": "any", "connector": "rj45"}'::jsonb order by n)
    from jsonb_array_elements(t.data->'sockets') with ordinality as e(s, n)), '[]'::jsonb),
  'ways', coalesce((
    select jsonb_agg(jsonb_build_object('way', case
        when w ilike '%web%' then 'web'
        when w ilike '%usb%' then 'usb'
        when w ilike '%program%' then 'program'
        when w ilike '%computer%' then 'system'
        else 'menu' end, 'note', '', 'alone', false) order by n)
    from jsonb_array_elements_text(t.data->'setFrom') with ordinality as e(w, n)), '[]'::jsonb),
  'commits', case when t.data->'restartsAfterAddress' = 'true'::jsonb
    then '[{"of": "address", "acts": [{"act": "restart_device", "seconds": null}]}]'::jsonb else '[]'::jsonb end,
  'services', coalesce((
    select jsonb_agg((s - 'login') || jsonb_build_object('logins', jsonb_build_array(s->'login')) order by n)
    from jsonb_array_elements(t.data->'services') with ordinality as e(s, n)), '[]'::jsonb),
  'startsInSeconds', null, 'needsGateway', false, 'features', '[]'::jsonb, 'bundles', '[]'::jsonb,
  'most', '{"sources": null, "controllers": null}'::jsonb, 'chain', null, 'looksUpOnce', false,
  'matches', '[]'::jsonb, 'power', '[]'::jsonb, 'runsOn', '[]'::jsonb, 'accessories', '[]'::jsonb,
  'helpers', '[]'::jsonb, 'online', '[]'::jsonb, 'erases', '[]'::jsonb, 'papers', '[]'::jsonb);

create table licence (
  show_id text not null references show (id) on delete cascade,
  id text not null,
  rev integer not null,
  model text not null,
  bundle text not null,
  owned integer not null check (owned between 0 and 9999),
  note text not null,
  primary key (show_id, id)
);

alter table network
  add column carries text not null default 'mixed',
  add column needs_outside boolean not null default false,
  add column owner text not null default 'ours' check (owner in ('ours', 'house')),
  add column contact text not null default '',
  add column rules text not null default '',
  add column granted jsonb not null default '[]',
  add column growth integer not null default 20 check (growth between 0 and 400);

alter table block add column use text not null default 'place' check (use in ('place', 'keep_free'));

alter table device
  add column serial text not null default '',
  add column variant text,
  add column runs_on text,
  add column adapter text,
  add column system text,
  add column system_version text,
  add column features text[] not null default '{}',
  add column sources integer check (sources >= 0),
  add column packed text[] not null default '{}',
  add column feed text,
  add column saved_on date,
  add column done text[] not null default '{}';
alter table device add foreign key (show_id, runs_on) references device (show_id, id) deferrable initially deferred;
create index device_runs_on on device (show_id, runs_on);

alter table address add column method text not null default 'static' check (method in ('static', 'dhcp', 'self'));
alter table service add column login text check (login in ('none', 'basic', 'digest'));
alter table link add column label text not null default '';

-- Types learn what a controller's own lamps measure, and how many sets of settings a unit keeps.
update device_type set data = '{"sets": 0, "lampMeans": null}'::jsonb || data;
update device_type set data = data || jsonb_build_object('lampMeans', means)
  from (values ('camera-remote', 'login'), ('show-host', 'data'), ('button-panel', 'address'),
    ('production-switcher', 'application'), ('fader-bank', 'carrier')) as known(model, means)
  where library_id = 'shipped' and data->>'model' = known.model;
update device_type set data = data || '{"sets": 4}'::jsonb where library_id = 'shipped' and data->>'model' = 'fader-bank';

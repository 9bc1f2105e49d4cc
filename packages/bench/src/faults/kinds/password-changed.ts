import { hold } from '../../units/pending.ts';
import { settingsOf } from '../../units/standin.ts';
import { keyedWrong } from '../keyed-wrong.ts';

export const fault = keyedWrong({
  mayHide: true,
  at: (_site, unit) =>
    settingsOf(unit).services.some(({ account }) => account !== null) ? unit : 'it asks for no password',
  change: (memory, unit) => {
    const settings = settingsOf(unit);
    const services = settings.services.map((service) =>
      service.account === null ? service : { ...service, password: 'another' },
    );
    hold(memory, { ...settings, services });
  },
});

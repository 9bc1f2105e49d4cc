import { keyedWrong, runsApplication } from '../keyed-wrong.ts';

export const fault = keyedWrong({
  mayHide: true,
  at: (_site, unit) => (runsApplication(unit) ? unit : 'it has no application that opens shows'),
  change: (memory) => (memory.application = 'no_show'),
});

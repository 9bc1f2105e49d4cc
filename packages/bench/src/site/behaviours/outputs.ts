import { onair } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import type { Standin } from '../../units/standin.ts';

/** Each output of a machine that moves together with others shows the item that is open in its own form. */
export function showOutputs(site: Surroundings, own: Standin): void {
  const { device, memory } = own;
  if (!device.features.includes('linked') && device.usedFor === '') return;
  const outputs = onair.outputsOf(site.plan.show, device);
  const show = () => {
    const item = Number(memory.face.get('item')) || 0;
    for (const { socket, form } of outputs) memory.face.set(socket.label, onair.outputWords(form, item));
  };
  show();
  own.followers.push(show);
}

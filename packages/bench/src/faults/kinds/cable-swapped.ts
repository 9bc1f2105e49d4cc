import type { Cable } from '../../ether/cable.ts';
import { faultKind } from '../fault.ts';

interface Plug {
  readonly cable: Cable;
  readonly at: 0 | 1;
}

export const fault = faultKind({
  mayHide: true,
  inWiring: true,
  fits: ({ wiring }, unit) => {
    const cables = unit.bridge ? [] : wiring.networkCablesOf(unit);
    const [first] = cables;
    const second = cables.find(({ adapter }) => adapter !== first?.adapter);
    return first && second ? { first, second } : 'it takes a unit with two network cables';
  },
  set: ({ first, second }) => swap(first, second),
  mend: (_before, { first, second }) => swap(first, second),
});

function swap(a: Plug, b: Plug): void {
  const [first, second] = [a.cable.unplug(a.at), b.cable.unplug(b.at)];
  a.cable.plug(a.at, second);
  b.cable.plug(b.at, first);
}

import { show as core } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, type Standin } from '../../units/standin.ts';

/** A unit beyond the licences that the show owns runs, but without what they open: whoever started first has the seat. */
export function takeSeat(site: Surroundings, own: Standin): void {
  const { show } = site.plan;
  for (const bundle of bundlesOf(own)) {
    const owned = core
      .rowsOf(show, 'licences')
      .filter((licence) => licence.model === own.type.model && licence.bundle === bundle)
      .reduce((sum, licence) => sum + licence.owned, 0);
    const before = [...site.standins.values()].filter(
      (other) => other !== own && isUp(other) && other.memory.seats.has(bundle) && other.type.model === own.type.model,
    );
    const label = own.type.bundles.find(({ key }) => key === bundle)?.label ?? bundle;
    if (before.length < owned) own.memory.seats.add(bundle);
    else own.memory.seats.delete(bundle);
    own.memory.face.set(label.toLowerCase(), own.memory.seats.has(bundle) ? 'taken' : 'none left');
  }
}

const bundlesOf = ({ device, type }: Standin): Set<string> =>
  new Set(
    type.features.flatMap(({ key, bundle }) => (bundle !== null && device.features.includes(key) ? [bundle] : [])),
  );

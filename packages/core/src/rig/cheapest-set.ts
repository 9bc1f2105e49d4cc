/** A model that could be got: how many sources it takes and what one costs. */
export interface Offer {
  readonly name: string;
  readonly sources: number;
  readonly price: number;
}

/** A unit that is there already and has room for so many sources more: it costs nothing, and there is one of it. */
export interface Idle {
  readonly name: string;
  readonly sources: number;
}

export interface CheapestSet {
  readonly cost: number;
  /** Names of units that are there already, those with most room first. */
  readonly idle: readonly string[];
  /** Names in the order of the offers, each with how many of it. */
  readonly counts: readonly { readonly name: string; readonly count: number }[];
}

/**
 * The cheapest way to take `wanted` sources: what is there already counts nothing, so it is used first, as few units of
 * it as lead to the least cost; what is left is bought. Undefined where nothing takes them.
 */
export function cheapestSet(
  wanted: number,
  offers: readonly Offer[],
  idle: readonly Idle[] = [],
): CheapestSet | undefined {
  if (wanted <= 0) return undefined;
  const largest = idle.filter(({ sources }) => sources > 0).sort((a, b) => b.sources - a.sources);
  let best: CheapestSet | undefined;
  let left = wanted;
  for (let used = 0; used <= largest.length; used += 1) {
    const bought = left > 0 ? cheapestBought(left, offers) : { cost: 0, counts: [] };
    if (bought && (!best || bought.cost < best.cost))
      best = { ...bought, idle: largest.slice(0, used).map(({ name }) => name) };
    left -= largest[used]?.sources ?? 0;
  }
  return best;
}

/**
 * The cheapest set of offers that takes at least `wanted` sources together, any number of each (need 1.10, C38): the
 * covering form of the unbounded knapsack, by dynamic programming over the sources still to cover. Of two sets of one
 * cost that with fewer units counts. Undefined where no offer takes any.
 */
function cheapestBought(wanted: number, offers: readonly Offer[]): Omit<CheapestSet, 'idle'> | undefined {
  const usable = offers.filter(({ sources }) => sources > 0);
  if (usable.length === 0) return undefined;
  const best: { cost: number; units: number; offer: Offer | undefined }[] = [{ cost: 0, units: 0, offer: undefined }];
  for (let need = 1; need <= wanted; need += 1) {
    let chosen = { cost: Infinity, units: Infinity, offer: undefined as Offer | undefined };
    for (const offer of usable) {
      const rest = best[Math.max(0, need - offer.sources)] ?? chosen;
      const [cost, units] = [rest.cost + offer.price, rest.units + 1];
      if (cost < chosen.cost || (cost === chosen.cost && units < chosen.units)) chosen = { cost, units, offer };
    }
    best.push(chosen);
  }
  const counts = new Map<string, number>();
  for (let need = wanted; need > 0;) {
    const offer = best[need]?.offer;
    if (!offer) return undefined;
    counts.set(offer.name, (counts.get(offer.name) ?? 0) + 1);
    need -= offer.sources;
  }
  return {
    cost: best[wanted]?.cost ?? 0,
    counts: usable.flatMap(({ name }) => {
      const count = counts.get(name);
      return count ? [{ name, count }] : [];
    }),
  };
}

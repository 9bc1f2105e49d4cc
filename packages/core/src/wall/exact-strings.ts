import type { Place } from './size.ts';
import { apart, type Path, type Wanted } from './strings.ts';

/**
 * Every string over every set of panels (Held and Karp 1962), and then every way to make up the whole of so many sets.
 * Panels are bits of a set.
 */
export function exactStrings(places: readonly Place[], { most, feed, loop }: Wanted): Path[] {
  const count = places.length;
  const toFeed = places.map((place) => apart(feed, place));
  const between = places.map((one) => places.map((other) => apart(one, other)));
  const sets = 1 << count;
  const cost = new Float64Array(sets * count).fill(Infinity);
  const before = new Int8Array(sets * count).fill(-1);
  for (let at = 0; at < count; at += 1) cost[(1 << at) * count + at] = toFeed[at] ?? 0;
  for (let set = 1; set < sets; set += 1)
    for (let last = 0; last < count; last += 1) {
      const here = cost[set * count + last] ?? Infinity;
      if (here === Infinity) continue;
      for (let next = 0; next < count; next += 1) {
        if (set & (1 << next)) continue;
        const to = (set | (1 << next)) * count + next;
        const there = here + (between[last]?.[next] ?? 0);
        if (there >= (cost[to] ?? Infinity)) continue;
        cost[to] = there;
        before[to] = last;
      }
    }
  const endOf = (set: number): { readonly last: number; readonly cost: number } => {
    let best = { last: -1, cost: Infinity };
    for (let last = 0; last < count; last += 1) {
      const whole = (cost[set * count + last] ?? Infinity) + (loop ? (toFeed[last] ?? 0) : 0);
      if (set & (1 << last) && whole < best.cost) best = { last, cost: whole };
    }
    return best;
  };
  return dealt(count, most, endOf).map((set) => {
    const path: Place[] = [];
    for (let [left, last] = [set, endOf(set).last]; last >= 0;) {
      const place = places[last];
      if (place) path.unshift(place);
      const earlier = before[left * count + last] ?? -1;
      left &= ~(1 << last);
      last = earlier;
    }
    return path;
  });
}

/** The cheapest way to deal so many panels to the fewest strings; answers the set of each. */
function dealt(count: number, most: number, endOf: (set: number) => { readonly cost: number }): number[] {
  const [sets, strings] = [1 << count, Math.ceil(count / most)];
  const size = new Uint8Array(sets);
  for (let set = 1; set < sets; set += 1) size[set] = (size[set >> 1] ?? 0) + (set & 1);
  const alone = new Float64Array(sets).fill(Infinity);
  for (let set = 1; set < sets; set += 1) if ((size[set] ?? 0) <= most) alone[set] = endOf(set).cost;
  let costs = alone;
  const chosen: Int32Array[] = [Int32Array.from(alone.keys())];
  for (let begun = 2; begun <= strings; begun += 1) {
    const next = new Float64Array(sets).fill(Infinity);
    const own = new Int32Array(sets);
    for (let set = 1; set < sets; set += 1)
      // the string with the first panel of the set is dealt first: no order of strings is tried twice
      for (let part = set; part > 0; part = (part - 1) & set) {
        if (!(part & (set & -set)) || part === set) continue;
        const both = (alone[part] ?? Infinity) + (costs[set ^ part] ?? Infinity);
        if (both >= (next[set] ?? Infinity)) continue;
        next[set] = both;
        own[set] = part;
      }
    costs = next;
    chosen.push(own);
  }
  const parts: number[] = [];
  for (let [left, begun] = [sets - 1, strings]; left > 0 && begun > 0; begun -= 1) {
    const part = chosen[begun - 1]?.[left] ?? left;
    parts.push(part);
    left ^= part;
  }
  return parts;
}

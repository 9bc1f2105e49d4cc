import { runGraph } from '../cabling/index.ts';
import { typeOf, type Cable, type Device, type Show } from '../show/index.ts';
import type { AirInput } from './inputs.ts';
import type { Take } from './take-delay.ts';

/** What measured takes of an input depend on: who plays, how the order gets there, and what the player needs. */
export function takeBasis(
  show: Show,
  { switcher, player, link }: Pick<AirInput, 'switcher' | 'player' | 'link'>,
): string {
  const ways = runsBetween(show, switcher, player).map(({ id, medium, delayMs }) => `${id} ${medium} ${delayMs ?? ''}`);
  const plays = player ? show.types[player.typeId]?.plays : undefined;
  const said = [player?.id, player?.swaps, link?.port, plays?.startMs, plays?.jitterMs, ...ways].join('|');
  // a short stand-in for the text (FNV-1a, 32 bits)
  let hash = 0x811c9dc5;
  for (const sign of said) hash = Math.imul(hash ^ (sign.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}

/** The runs of the order from one adapter of the switcher to one of the player, the shortest way there is. */
function runsBetween(show: Show, switcher: Device, player: Device | undefined): Cable[] {
  if (!player) return [];
  const { path } = runGraph(show, { isShut: () => false });
  const nodes = (device: Device) => typeOf(show, device)?.adapters.map(({ key }) => `${device.id}/${key}`) ?? [];
  const ways = nodes(switcher).flatMap((from) => nodes(player).flatMap((to) => path(from, to) ?? []));
  const shortest = ways.sort((a, b) => a.runs.length - b.runs.length)[0];
  return (shortest?.runs ?? []).flatMap((id) => show.cables[id] ?? []);
}

/** Takes of an input that still count; those of another plan are of the past. */
export function measuredTakes(show: Show, input: AirInput): Take[] {
  const { measured } = input.rule;
  if (!measured || measured.basis !== takeBasis(show, input)) return [];
  return measured.takes.map(([arrives, starts, moves]) => ({ arrives, starts, moves }));
}

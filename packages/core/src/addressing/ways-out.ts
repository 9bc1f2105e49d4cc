import { applyChange, planRemove, rowsOf, updateRow, type Change, type Content, type Show } from '../show/index.ts';
import { fixWith, type Fix } from '../findings/index.ts';
import { addressingFacts, type NetworkFacts } from './facts.ts';
import { blockFor } from './free-hosts.ts';
import { formatIp, mustIp, overlaps, subnetOf } from './ipv4.ts';
import { planPlacement, type Crowd, type Placement } from './plan-placement.ts';

/**
 * Why a crowd finds no room: the smallest set of causes. `block_full`: the block has fewer usable addresses than
 * units; `network_full`: the same for everything outside the blocks; the others took room from it.
 */
export interface Cause {
  readonly code: 'block_full' | 'network_full';
  readonly network: string;
  readonly block: string;
  readonly units: number;
  readonly room: number;
  /** Strangers and held addresses that sit in the block without belonging there. */
  readonly squatters: readonly string[];
}

export function causesOf(show: Show, placement: Placement): Cause[] {
  const facts = addressingFacts(show);
  const seen = new Set<string>();
  return placement.crowds.flatMap((crowd): Cause[] => {
    const on = facts.byNetwork.get(crowd.networkId);
    const key = `${crowd.networkId} ${crowd.blockId}`;
    if (!on || seen.has(key)) return [];
    seen.add(key);
    const left = new Set(placement.noRoom.map(({ address }) => address.id));
    const short = crowd.items.filter(({ address }) => left.has(address.id));
    const block = crowd.blockId === undefined ? undefined : show.blocks[crowd.blockId];
    return [
      {
        code: block ? 'block_full' : 'network_full',
        network: on.network.name,
        block: block?.label ?? '',
        units: crowd.items.length,
        room: crowd.items.length - short.length,
        squatters: block ? squattersIn(on, crowd).map(({ device }) => device.name) : [],
      },
    ];
  });
}

const sameSpot = (on: NetworkFacts, kind: Parameters<typeof blockFor>[1], blockId: string | undefined): boolean =>
  blockFor(on, kind)?.block.id === blockId;

/** Units inside a block that belong elsewhere. */
function squattersIn(on: NetworkFacts, { blockId }: Crowd) {
  const range = on.blocks.find(({ block }) => block.id === blockId);
  if (!range) return [];
  return on.planned.filter(
    ({ ip, type }) => ip !== null && ip >= range.from && ip <= range.to && !sameSpot(on, type.kind, blockId),
  );
}

/**
 * Ways out of a placement that found too little room, each as one change with the placement that becomes possible:
 * widen the block, let its kinds spread over the network, move a stranger out of it, widen the network, release a
 * held address. Only those that really place more are offered, those that place most first.
 */
export function waysOut(show: Show, placement: Placement): Fix[] {
  const facts = addressingFacts(show);
  const seen = new Set<string>();
  const tries = placement.crowds.flatMap((crowd): { label: string; change: Change }[] => {
    const on = facts.byNetwork.get(crowd.networkId);
    const key = `${crowd.networkId} ${crowd.blockId}`;
    if (!on || seen.has(key)) return [];
    seen.add(key);
    const short = placement.noRoom.filter(({ network }) => network.id === crowd.networkId).length;
    return [
      ...widerBlock(show, on, crowd, short),
      ...withoutSquatters(on, crowd),
      ...freedBlock(show, on, crowd),
      ...widerNetwork(show, on),
      ...withoutBlock(show, crowd),
    ];
  });
  return tries
    .flatMap(({ label, change }) => {
      const better = placedAfter(show, change);
      return better && better.noRoom < placement.noRoom.length
        ? [{ left: better.noRoom, fix: fixWith(label, { label, edits: [...change.edits, ...better.edits] }) }]
        : [];
    })
    .sort((a, b) => a.left - b.left)
    .flatMap(({ fix }) => fix ?? []);
}

/** What the placement would do after a change; its edits are based on the rows that are there now. */
function placedAfter(show: Show, change: Change): { noRoom: number; edits: Change['edits'] } | undefined {
  const applied = applyChange(show, change);
  if (!applied.ok) return undefined;
  const { change: placing, noRoom } = planPlacement(applied.show);
  const touched = new Set(change.edits.map(({ table, id }) => `${table}/${id}`));
  const edits = placing?.edits.filter(({ table, id }) => !touched.has(`${table}/${id}`)) ?? [];
  return { noRoom: noRoom.length, edits };
}

function widerBlock(show: Show, on: NetworkFacts, { blockId }: Crowd, short: number) {
  const range = on.blocks.find(({ block }) => block.id === blockId);
  if (!range) return [];
  const others = on.blocks.filter(({ block }) => block.id !== blockId);
  const limits = [...others, ...(on.pool ? [on.pool] : [])];
  const above = Math.min(on.last, ...limits.filter(({ from }) => from > range.to).map(({ from }) => from - 1));
  const below = Math.max(on.first, ...limits.filter(({ to }) => to < range.from).map(({ to }) => to + 1));
  const row = show.blocks[range.block.id];
  if (!row) return [];
  // room is found upwards first, in steps that hold those who are left; taken addresses on the way may need more
  for (const extra of [short, short * 2, short * 4, 256]) {
    const to = Math.min(above, range.to + extra);
    const from = to - range.to >= extra ? range.from : Math.max(below, range.from - (extra - (to - range.to)));
    const label = `Widen ${range.block.label} to ${formatIp(from)} – ${formatIp(to)}`;
    const change = { label, edits: [updateRow('blocks', row, { first: formatIp(from), last: formatIp(to) })] };
    const after = from === range.from && to === range.to ? undefined : placedAfter(show, change);
    if (after && (after.noRoom === 0 || extra === 256)) return [{ label, change }];
  }
  return [];
}

/** Each stranger in the block on its own: it waits again and is placed elsewhere. */
const withoutSquatters = (on: NetworkFacts, crowd: Crowd) =>
  squattersIn(on, crowd)
    .slice(0, 3)
    .map(({ address, device }) => {
      const label = `${address.held ? 'Release' : 'Move'} ${device.name} out of it`;
      return { label, change: { label, edits: [updateRow('addresses', address, { ip: null, held: false })] } };
    });

/** Its kinds may stand anywhere: the block gives them up. */
function freedBlock(show: Show, on: NetworkFacts, { blockId, items }: Crowd) {
  const row = show.blocks[blockId ?? ''];
  const kind = items.at(-1)?.type.kind;
  if (!row || !kind || row.kinds.length < 2) return [];
  const label = `Let ${kind} stand outside ${row.label} on ${on.network.name}`;
  const kinds = row.kinds.filter((other) => other !== kind);
  return [{ label, change: { label, edits: [updateRow('blocks', row, { kinds })] } }];
}

/** One bit more of room, where the wider network still starts at its own border and meets no other. */
function widerNetwork(show: Show, on: NetworkFacts) {
  const { network } = on;
  const wider = subnetOf(on.subnet.network, on.subnet.prefix - 1);
  const meets = rowsOf(show, 'networks').some(
    (other) => other.id !== network.id && overlaps(wider, { network: mustIp(other.network), prefix: other.prefix }),
  );
  if (network.owner === 'house' || meets || wider.prefix < 16) return [];
  const label = `Widen ${network.name} to ${formatIp(wider.network)}/${wider.prefix}`;
  const patch: Partial<Content<'networks'>> = { network: formatIp(wider.network), prefix: wider.prefix };
  return [{ label, change: { label, edits: [updateRow('networks', network, patch)] } }];
}

function withoutBlock(show: Show, { blockId }: Crowd) {
  const row = show.blocks[blockId ?? ''];
  if (!row) return [];
  const label = `Take the block ${row.label} away`;
  return [{ label, change: planRemove(show, 'blocks', [row.id], label) }];
}

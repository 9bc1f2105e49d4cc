import { FirstOfEach, indexBy, indexOver, once, rowsBy, typeOf, type Network, type Show } from '../show/index.ts';
import {
  networkFacts,
  plannedOf,
  waysOf,
  type Way,
  type AddressingFacts,
  type NetworkFacts,
  type Planned,
} from './planned.ts';
import { lowestFreeOf } from './lowest-free.ts';
import { mustIp } from './ipv4.ts';

const plannedById = indexBy('addresses', (address, show) => plannedOf(show, address).map((item) => [address.id, item]));

/** Planned addresses under keys of theirs. */
const plannedBy = <Key>(keysOf: (item: Planned) => readonly Key[]) =>
  indexOver(plannedById, (item) => keysOf(item).map((key) => [key, item] as const));

const byDevice = plannedBy(({ device }) => [device.id]);
const byInterface = plannedBy((item) => [item.interface.id]);
const byNetwork = plannedBy(({ network }) => [network.id]);
const byWay = plannedBy((item) => waysOf(item).map((way) => `${item.network.id} ${way}`));
const byIp = plannedBy(({ ip }) => (ip === null ? [] : [ip]));
const takers = indexOver(plannedById, ({ ip, address }): [number, string][] => (ip === null ? [] : [[ip, address.id]]));
const all = plannedBy(() => ['all']);

const factory = indexBy('devices', (device, show) => {
  const ip = typeOf(show, device)?.factory.ip;
  return ip ? [[mustIp(ip), device]] : [];
});

const gatewaysOfNetworks = indexBy('networks', ({ gateway }) => (gateway === null ? [] : [[mustIp(gateway), true]]));
const gatewaysOfAddresses = indexBy('addresses', ({ gateway }) => (gateway === null ? [] : [[mustIp(gateway), true]]));

const on = indexBy('networks', (network, show) => [[network.id, new StandingNetwork(show, network)]]);

/** The same facts of a standing show: who reads a part follows that part only. */
export function standingAddressing(show: Show): AddressingFacts {
  const networks = once(() =>
    [...on(show).values()]
      .flat()
      .sort((a, b) => a.subnet.network - b.subnet.network || (a.network.id < b.network.id ? -1 : 1)),
  );
  const facts: AddressingFacts = {
    get networks() {
      return networks();
    },
    on: on(show),
    byNetwork: new FirstOfEach(on(show)),
    get planned() {
      return all(show).get('all') ?? [];
    },
    byId: plannedById(show),
    byInterface: byInterface(show),
    byDevice: byDevice(show),
    byIp: byIp(show),
    takers: takers(show),
    factory: new FirstOfEach(factory(show)),
    gateways: {
      has: (ip) => gatewaysOfNetworks(show).has(ip) || gatewaysOfAddresses(show).has(ip),
      keys: () => new Set([...gatewaysOfNetworks(show).keys(), ...gatewaysOfAddresses(show).keys()]).keys(),
    },
    lowestFree: lowestFreeOf(() => facts),
  };
  return facts;
}

/** A network by what its row and its blocks say; its members are read when somebody asks for them. */
class StandingNetwork implements NetworkFacts {
  readonly network: Network;
  readonly subnet: NetworkFacts['subnet'];
  readonly first: number;
  readonly last: number;
  readonly broadcast: number;
  readonly gateway: number | null;
  readonly pool: NetworkFacts['pool'];
  readonly blocks: NetworkFacts['blocks'];
  readonly reserved: NetworkFacts['reserved'];
  readonly granted: NetworkFacts['granted'];
  private readonly show: Show;

  constructor(show: Show, network: Network) {
    const facts = networkFacts(network, rowsBy(show, 'blocks', 'networkId').get(network.id) ?? [], []);
    this.show = show;
    this.network = network;
    this.subnet = facts.subnet;
    this.first = facts.first;
    this.last = facts.last;
    this.broadcast = facts.broadcast;
    this.gateway = facts.gateway;
    this.pool = facts.pool;
    this.blocks = facts.blocks;
    this.reserved = facts.reserved;
    this.granted = facts.granted;
  }

  by(way: Way): readonly Planned[] {
    return byWay(this.show).get(`${this.network.id} ${way}`) ?? [];
  }

  get planned(): readonly Planned[] {
    return byNetwork(this.show).get(this.network.id) ?? [];
  }
}

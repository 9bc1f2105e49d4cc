import { show as core } from '@deep-patch/core';
import { Cable, wire } from './ether/cable.ts';
import type { Membership, Switch } from './ether/switch.ts';
import { revert } from './revert.ts';
import type { Site } from './site.ts';
import { settingsOf, type Memory, type Standin } from './standins/standin.ts';
import { resetToFactory, putFirmware } from './standins/keying.ts';

/** Sets one fault and answers what undoes it; a text says why it cannot be set there. */
type Setter = (site: Site, standin: Standin) => (() => void) | string;

interface Set {
  readonly fault: core.SetFault;
  readonly hidden: boolean;
  undo: () => void;
  /** What lives in cables and switches has to be set again after the site was built anew. */
  readonly again: boolean;
}

const lossOfABadHop = 0.6;
const strayVlan = 4000;

/** All faults of one site: set by hand or hidden by a rehearsal. */
export class Faults {
  private readonly open = new Map<string, Set>();
  private nextId = 1;
  private readonly site: Site;

  constructor(site: Site) {
    this.site = site;
  }

  /** Throws a plain Error with the reason where such a fault makes no sense at that unit. */
  set(kind: core.FaultKind, deviceId: string, hidden = false): core.SetFault {
    const standin = this.site.standins.get(deviceId);
    if (!standin) throw new Error('there is no such unit on the bench');
    const undo = setters[kind](this.site, standin);
    if (typeof undo === 'string') throw new Error(undo);
    if (ofWiring.has(kind)) this.site.linksChanged();
    const fault = { id: `f${this.nextId}`, kind, deviceId };
    this.nextId += 1;
    this.open.set(fault.id, { fault, hidden, undo, again: ofWiring.has(kind) });
    return fault;
  }

  clear(id: string): void {
    const set = this.open.get(id);
    this.open.delete(id);
    set?.undo();
    if (set?.again) this.site.linksChanged();
  }

  /** Those that the user set; hidden ones are the rehearsal's. */
  list(): core.SetFault[] {
    return [...this.open.values()].filter(({ hidden }) => !hidden).map(({ fault }) => fault);
  }

  /** After a new plan: cables and switches are new, so what was wrong with them has to be set again. */
  setAgain(): void {
    for (const [id, set] of this.open) {
      const standin = this.site.standins.get(set.fault.deviceId);
      if (!standin) this.open.delete(id);
      else if (set.again) {
        const undo = setters[set.fault.kind](this.site, standin);
        if (typeof undo === 'string') this.open.delete(id);
        else set.undo = undo;
      }
    }
  }
}

const ofWiring: ReadonlySet<core.FaultKind> = new Set([
  'cable_out',
  'cable_swapped',
  'wrong_vlan',
  'wireless_loss',
  'loop',
  'dhcp_gone',
]);

/** What a fault at a unit may change: what is keyed into it, and what runs on it. */
const snapshot = (standin: Standin) => {
  const { application, firewall, helper, firstSignIn } = standin.memory;
  return { settings: settingsOf(standin), running: { application, firewall, helper, firstSignIn } };
};

/**
 * Changes a unit as if somebody had keyed something wrong in, and takes that in. Mended, only this change is taken
 * back: other faults of the unit stay, and so does what somebody put right by hand meanwhile.
 */
function rekey(site: Site, standin: Standin, change: (memory: Memory) => void): () => void {
  const { memory, device } = standin;
  const followedPlan = memory.own === undefined;
  const before = snapshot(standin);
  change(memory);
  const after = snapshot(standin);
  site.refresh(standin);
  return () => {
    const now = site.standins.get(device.id);
    if (!now) return;
    const { settings, running } = revert(snapshot(now), before, after);
    Object.assign(memory, running);
    if (memory.own) memory.own = followedPlan && core.isEqual(settings, before.settings) ? undefined : settings;
    site.refresh(now);
  };
}

const setters: Readonly<Record<core.FaultKind, Setter>> = {
  power_off: (site, { device, memory }) => {
    if (!memory.powered) return 'it has no power anyway';
    site.power([device.id], false);
    return () => site.power([device.id], true);
  },
  cable_out: (site, standin) => {
    const cable = cablesOf(site, standin)[0];
    if (!cable) return 'it has no cable';
    cable.cut = true;
    return () => (cable.cut = false);
  },
  cable_swapped: ({ wiring }, standin) => {
    const cables = standin.bridge ? [] : wiring.networkCablesOf(standin);
    const [first] = cables;
    const second = cables.find(({ adapter }) => adapter !== first?.adapter);
    if (!first || !second) return 'it takes a unit with two network cables';
    swap(first, second);
    return () => swap(first, second);
  },
  wrong_vlan: (site, standin) => {
    const place = socketAtManaged(site, standin);
    if (!place) return 'it does not hang on a managed switch';
    const before = place.bridge.membership.get(place.key);
    place.bridge.membership.set(place.key, { mode: 'access', vlan: strayVlan } satisfies Membership);
    return () => {
      if (before) place.bridge.membership.set(place.key, before);
      else place.bridge.membership.delete(place.key);
    };
  },
  second_unit: (site, standin) => {
    const own = addressOf(standin);
    const twin = [...site.standins.values()].find(
      (other) =>
        other !== standin &&
        !other.computer &&
        !other.bridge &&
        other.memory.powered &&
        sharesNetwork(addressOf(other), own),
    );
    if (!own || !twin) return 'no other unit is on its network';
    return rekey(site, twin, (memory) => (memory.own = withFirst(twin, { ip: own.ip })));
  },
  wrong_mask: (site, standin) => {
    const own = addressOf(standin);
    if (!own || own.prefix >= 30) return 'it has no address of its own';
    return rekey(site, standin, (memory) => (memory.own = withFirst(standin, { prefix: 30 })));
  },
  dhcp_gone: (_site, { dhcp }) => {
    if (!dhcp) return 'it hands out no addresses';
    dhcp.active = false;
    return () => (dhcp.active = true);
  },
  firewall_on: (site, standin) =>
    core.isComputer(standin.type)
      ? rekey(site, standin, (memory) => (memory.firewall = true))
      : 'only computers have a firewall',
  application_closed: (site, standin) =>
    runsApplication(standin)
      ? rekey(site, standin, (memory) => (memory.application = 'closed'))
      : 'it has no application to close',
  no_show_open: (site, standin) =>
    runsApplication(standin)
      ? rekey(site, standin, (memory) => (memory.application = 'no_show'))
      : 'it has no application that opens shows',
  helper_quit: (site, standin) =>
    standin.type.helpers.length > 0
      ? rekey(site, standin, (memory) => (memory.helper = false))
      : 'nothing has to run beside it',
  old_firmware: (site, standin) =>
    standin.type.services.some(({ lowestFirmware }) => lowestFirmware !== null)
      ? rekey(site, standin, () => putFirmware(standin, '0.9'))
      : 'none of its functions asks for a version',
  password_changed: (site, standin) => {
    const { services } = settingsOf(standin);
    if (!services.some(({ account }) => account !== null)) return 'it asks for no password';
    return rekey(site, standin, (memory) => {
      memory.own = {
        ...settingsOf(standin),
        services: services.map((service) => (service.account === null ? service : { ...service, password: 'another' })),
      };
    });
  },
  wireless_loss: (site, standin) => {
    const hop = [...site.cables.values()].find(
      ({ row }) => row.medium === 'wireless' && [row.fromDevice, row.toDevice].includes(standin.device.id),
    );
    if (!hop) return 'it has no wireless hop';
    const before = hop.cable.way;
    hop.cable.way = { ...before, loss: lossOfABadHop };
    return () => (hop.cable.way = before);
  },
  loop: (site, { bridge, device }) => {
    const { scheduler } = site;
    if (!bridge) return 'it takes a switch';
    if (bridge.tree) bridge.tree.active = false;
    const loop = new Cable(
      [bridge.addPort(`loop a ${device.id}`, false), bridge.addPort(`loop b ${device.id}`, false)],
      wire(1),
      scheduler,
      () => 0.5,
    );
    const vlan = [...bridge.membership.values()].flatMap((member) => (member.mode === 'access' ? [member] : []))[0];
    for (const end of ['a', 'b']) if (vlan) bridge.membership.set(`loop ${end} ${device.id}`, vlan);
    return () => {
      loop.cut = true;
      if (bridge.tree) {
        bridge.tree.active = true;
        bridge.tree.start();
      }
      bridge.drop(`loop a ${device.id}`, `loop b ${device.id}`);
      for (const standin of site.standins.values()) standin.bridge?.calm();
      site.wiring.calm();
    };
  },
  factory_reset: (site, standin) => {
    if (standin.computer || standin.type.adapters.length === 0) return 'it has no factory state';
    return rekey(site, standin, () => resetToFactory(standin));
  },
};

const runsApplication = ({ type, computer }: Standin): boolean =>
  (computer !== undefined || core.isComputer(type)) && type.services.length > 0;

function cablesOf(site: Site, { device }: Standin): Cable[] {
  return [...site.cables.values()]
    .filter(({ row }) => row.fromDevice === device.id || row.toDevice === device.id)
    .map(({ cable }) => cable);
}

function addressOf(standin: Standin): { ip: number; prefix: number } | undefined {
  const first = Object.values(settingsOf(standin).addresses).flat()[0];
  return first && first.ip !== null ? { ip: first.ip, prefix: first.prefix } : undefined;
}

const sharesNetwork = (a: { ip: number } | undefined, b: { ip: number; prefix: number } | undefined): boolean =>
  a !== undefined && b !== undefined && a.ip !== b.ip && (a.ip ^ b.ip) >>> (32 - b.prefix) === 0;

function withFirst(standin: Standin, patch: { ip?: number; prefix?: number }) {
  const settings = settingsOf(standin);
  const key = Object.keys(settings.addresses).find((adapter) => (settings.addresses[adapter] ?? []).length > 0) ?? '';
  const [first, ...rest] = settings.addresses[key] ?? [];
  return first
    ? { ...settings, addresses: { ...settings.addresses, [key]: [{ ...first, ...patch }, ...rest] } }
    : settings;
}

interface Plug {
  readonly cable: Cable;
  readonly at: 0 | 1;
}

function swap(a: Plug, b: Plug): void {
  const [first, second] = [a.cable.unplug(a.at), b.cable.unplug(b.at)];
  a.cable.plug(a.at, second);
  b.cable.plug(b.at, first);
}

/** The socket of a managed switch into which the unit's first cable leads. */
function socketAtManaged(site: Site, { device }: Standin): { bridge: Switch; key: string } | undefined {
  for (const { row } of site.cables.values())
    for (const [own, far, socket] of [
      [row.fromDevice, row.toDevice, row.toSocket],
      [row.toDevice, row.fromDevice, row.fromSocket],
    ] as const) {
      const bridge = own === device.id ? site.standins.get(far)?.bridge : undefined;
      if (bridge?.tree) return { bridge, key: socket };
    }
  return undefined;
}

import { show as core, surfaces, type contract } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { deliver } from './deliver.ts';
import { isUp, type Standin } from '../units/standin.ts';
import type { News } from '../protocols/news.ts';
import { Following, surfaceWays } from './following.ts';
import { hearDatagrams } from './hear-datagrams.ts';
import { Lanes } from './lanes.ts';
import { Stepping } from './stepping.ts';

type Move = contract.Moves['moves'][number];
type Meaning = surfaces.Meaning;

/** What a surface is set to and was moved to; it outlives a new plan. */
interface Panel {
  layer: number;
  /** By the group of targets, the id of the one that is chosen. */
  readonly chosen: Map<string, string>;
  readonly values: Map<string, number>;
  readonly deliveries: Map<string, contract.Delivery>;
  /** Controls that have their parameter: those that wait until they come past it are not in here. */
  readonly holding: Set<string>;
  /** Keys that are on, of those that switch. */
  readonly on: Set<string>;
  /** What targets were heard to say, by target, service and parameter. */
  readonly heard: Map<string, string>;
  /** How to tell whoever moves a control from outside where it stands, by the control's address. */
  readonly answers: Map<string, (value: number) => void>;
}

const placeOf = ({ control, part }: Pick<Move, 'control' | 'part'>): string => `${control} ${part}`;

/** The surfaces of a site: what their controls do when they are moved, and what comes back. */
export class Panels {
  readonly stepping = new Stepping();
  /** Something moved since it was asked last. */
  isNew = false;
  private readonly panels = new Map<string, Panel>();
  private readonly lanes = new Lanes();
  private readonly site: Site;
  private readonly doMachine: (deviceId: string, what: NonNullable<core.Assignment['machine']>) => void | Promise<void>;
  private readonly stopAll: (deviceId: string) => Promise<void>;
  private readonly onMove: (deviceId: string, move: Move) => void;
  private readonly following: Following;
  private listening: object | undefined;
  private listeningAt = -1;
  private stops: (() => void)[] = [];

  constructor(
    site: Site,
    hooks: {
      readonly machine: Panels['doMachine'];
      readonly stopAll: Panels['stopAll'];
      readonly moved: Panels['onMove'];
    },
  ) {
    this.site = site;
    this.doMachine = hooks.machine;
    this.stopAll = hooks.stopAll;
    this.onMove = hooks.moved;
    this.following = new Following(site, surfaceWays, {
      heard: ({ link, service }, news) => this.hear(link.controllerId, link.targetId, service, news),
      lost: ({ link }) => this.forget(link.controllerId, `${link.targetId} ${link.serviceKey} `),
    });
  }

  /** Moves controls of a surface. Throws a plain Error where it is off or has no such control. */
  move(deviceId: string, moves: readonly Move[]): void {
    const standin = this.site.standins.get(deviceId);
    if (!standin) throw new Error('there is no such unit on the bench');
    if (!isUp(standin)) throw new Error(`${standin.device.name} is not switched on`);
    for (const move of moves) this.moveOne(standin, move);
  }

  private moveOne(standin: Standin, move: Move): void {
    const { show } = this.site.plan;
    const device = show.devices[standin.device.id] ?? standin.device;
    const control = surfaces.controlsOf(show, device).find(({ key }) => key === move.control);
    if (!control) throw new Error(`${device.name} has no control “${move.control}”`);
    const panel = this.panelOf(device.id);
    const value = Math.min(control.greatest, Math.max(control.least, move.value));
    const before = panel.values.get(placeOf(move));
    panel.values.set(placeOf(move), value);
    this.isNew = true;
    this.onMove(device.id, { ...move, value });
    const isReleased = (control.kind === 'key' || control.kind === 'region') && value === control.least;
    if (isReleased) return;
    for (const [at, meaning] of surfaces.meaningsOf(show, device, control, panel.layer).entries())
      if (meaning.part === move.part) this.follow({ device, control, panel, move, at, value, before }, meaning);
  }

  private follow(moved: Moved, meaning: Meaning): void {
    const { device, panel } = moved;
    const { assignment } = meaning;
    if (meaning.does === 'stop_all') void this.stopAll(device.id);
    else if (meaning.does === 'show_layer') {
      const { show } = this.site.plan;
      const layers = surfaces.layersOf(show, device);
      panel.layer = assignment?.number == null ? (panel.layer + 1) % layers : Math.min(layers - 1, assignment.number);
      panel.holding.clear();
    } else if (meaning.does === 'choose_target' && assignment?.targetId != null) {
      const targets = [assignment.targetId, ...assignment.among];
      panel.chosen.set(assignment.targetId, targets[assignment.number ?? 0] ?? assignment.targetId);
      panel.holding.clear();
    } else if (meaning.does === 'machine' && assignment?.targetId != null && assignment.machine)
      void Promise.resolve(this.doMachine(assignment.targetId, assignment.machine)).catch(() => undefined);
    else if (meaning.offer) this.send(moved, meaning);
  }

  private send(moved: Moved, meaning: Meaning): void {
    const { device, panel, move, at } = moved;
    const { offer, drives, assignment, bank } = meaning;
    const value = drives && this.valueFor(moved, meaning);
    if (!offer || (drives && value === undefined)) return;
    const first = assignment?.targetId ?? bank?.targetId ?? '';
    const targetId = assignment && assignment.among.length > 0 ? (panel.chosen.get(first) ?? first) : first;
    const args = offer.command.args.map(({ name, example }, n) =>
      name === drives?.name && value !== undefined ? value : (meaning.args[n] ?? example),
    );
    const place = placeOf(move);
    const message = { controllerId: device.id, targetId, serviceKey: offer.service.key, typed: '' };
    void this.lanes.run(`${device.id} ${place} ${at}`, async () => {
      const delivery = await deliver(this.site, { ...message, command: offer.command.key, args });
      if (at === 0) panel.deliveries.set(place, delivery);
      if (delivery.outcome === 'done') {
        this.stepping.note(device.id, targetId, offer.command.key, this.site.scheduler.now());
        // who is answered on the connection itself knows what was done
        if (offer.service.protocol !== 'osc') this.takeAnswer(device.id, targetId, offer, args);
      }
      this.isNew = true;
    });
  }

  /** What the parameter gets; undefined while the control waits until it comes past it. */
  private valueFor(moved: Moved, meaning: Meaning): number | boolean | undefined {
    const { control, panel, move, value, before } = moved;
    const { drives, transfer } = meaning;
    const place = placeOf(move);
    if (!drives) return undefined;
    if (drives.type === 'T') {
      if (control.kind !== 'key' && control.kind !== 'region')
        return surfaces.isOn(value, control.least, control.greatest);
      // each press of a key changes over what its target was heard to be, or what it was told last
      const says = this.heardOf(moved, meaning);
      const isOn = says === undefined ? !panel.on.has(place) : says !== 'true';
      if (isOn) panel.on.add(place);
      else panel.on.delete(place);
      return isOn;
    }
    if (transfer?.pickUp === 'when_passed' && !panel.holding.has(place)) {
      const known = this.knownValue(moved, meaning);
      if (known !== undefined && !surfaces.takesOver(before, value, surfaces.positionFor(transfer, known)))
        return undefined;
    }
    panel.holding.add(place);
    return surfaces.forArgument(drives, transfer ? surfaces.transferred(transfer, value) : value);
  }

  /** What the parameter was heard to be, where that is a number. */
  private knownValue(moved: Moved, meaning: Meaning): number | undefined {
    const number = parseFloat(this.heardOf(moved, meaning) ?? '');
    return Number.isNaN(number) ? undefined : number;
  }

  private heardOf({ panel }: Moved, meaning: Meaning): string | undefined {
    const { offer, assignment } = meaning;
    const parameter = drivenParameter(meaning);
    if (!offer || parameter === undefined) return undefined;
    const first = assignment?.targetId ?? offer.target.id;
    return panel.heard.get(`${panel.chosen.get(first) ?? first} ${offer.service.key} ${parameter}`);
  }

  private takeAnswer(
    deviceId: string,
    targetId: string,
    { service, command }: surfaces.Offer,
    args: readonly unknown[],
  ): void {
    const values = new Map(command.args.map(({ name }, at) => [name, String(args[at])]));
    const fill = (text: string) => text.replace(/\{(\w+)\}/g, (whole, name: string) => values.get(name) ?? whole);
    for (const { parameter, value } of command.sets)
      this.panelOf(deviceId).heard.set(`${targetId} ${service.key} ${fill(parameter)}`, fill(value));
  }

  /** Surfaces listen to what their targets tell, and to whoever moves their controls from outside. */
  listen(): void {
    const { standins, rev, plan } = this.site;
    this.following.look();
    if (this.listening === standins.values().next().value && this.listeningAt === rev) return;
    this.listening = standins.values().next().value;
    this.listeningAt = rev;
    for (const stop of this.stops.splice(0)) stop();
    for (const device of surfaces.surfacesOf(plan.show)) {
      // what is chosen and lit on it is known before anybody touches it
      this.panelOf(device.id);
      const standin = standins.get(device.id);
      if (!standin) continue;
      this.stops.push(this.hearTargets(standin), this.hearOutside(standin));
    }
  }

  private hearTargets(standin: Standin): () => void {
    const { show } = this.site.plan;
    const ways = (core.rowsBy(show, 'links', 'controllerId').get(standin.device.id) ?? []).flatMap((link) => {
      const service = core.serviceTypeOf(show, show.devices[link.targetId], link.serviceKey);
      return service ? [{ link, service }] : [];
    });
    return hearDatagrams(this.site, standin, ways, ({ link, service }, news) =>
      this.hear(standin.device.id, link.targetId, service, news),
    );
  }

  private hear(deviceId: string, targetId: string, service: core.ServiceType, news: readonly News[]): void {
    const panel = this.panelOf(deviceId);
    for (const { parameter, value } of news) {
      panel.heard.set(`${targetId} ${service.key} ${parameter}`, value);
      this.isNew = true;
      this.tellOutside(deviceId, targetId, service.key, parameter, value);
    }
  }

  /** Who cannot be heard any more may be in any state. */
  private forget(deviceId: string, place: string): void {
    const { heard } = this.panelOf(deviceId);
    for (const key of [...heard.keys()]) if (key.startsWith(place)) heard.delete(key);
    this.isNew = true;
  }

  /** A control that an outside program moves is told where its parameter is. */
  private tellOutside(deviceId: string, targetId: string, serviceKey: string, parameter: string, value: string): void {
    const { show } = this.site.plan;
    const device = show.devices[deviceId];
    const panel = this.panelOf(deviceId);
    const number = parseFloat(value);
    if (!device || panel.answers.size === 0 || Number.isNaN(number)) return;
    for (const control of surfaces.controlsOf(show, device)) {
      const answer = panel.answers.get(control.address);
      if (!answer) continue;
      for (const meaning of surfaces.meaningsOf(show, device, control, panel.layer)) {
        const { offer, transfer, drives, assignment } = meaning;
        if (!offer || !transfer || !drives || offer.service.key !== serviceKey) continue;
        if ((panel.chosen.get(assignment?.targetId ?? '') ?? assignment?.targetId) !== targetId) continue;
        if (drivenParameter(meaning) === parameter) answer(surfaces.positionFor(transfer, number));
      }
    }
  }

  private hearOutside(standin: Standin): () => void {
    const ear: Standin['ears'][number] = ({ address, value }, answer) => {
      const { show } = this.site.plan;
      const device = show.devices[standin.device.id];
      const control = device && surfaces.controlsOf(show, device).find((own) => own.address === address);
      if (!control || Number.isNaN(value)) return false;
      this.panelOf(standin.device.id).answers.set(address, answer);
      this.moveOne(standin, { control: control.key, part: 'whole', value });
      return true;
    };
    standin.ears.push(ear);
    return () => void standin.ears.splice(standin.ears.indexOf(ear), 1);
  }

  states(): contract.PanelState[] {
    const { show } = this.site.plan;
    return [...this.panels].flatMap(([deviceId, panel]): contract.PanelState[] => {
      const device = show.devices[deviceId];
      if (!device) return [];
      const controls = surfaces
        .controlsOf(show, device)
        .flatMap((control) => this.controlStates(device, control, panel));
      return [{ deviceId, layer: panel.layer, chosen: Object.fromEntries(panel.chosen), controls }];
    });
  }

  private controlStates(device: core.Device, control: surfaces.SurfaceControl, panel: Panel): contract.ControlState[] {
    const { show } = this.site.plan;
    const meanings = surfaces.meaningsOf(show, device, control, panel.layer);
    const parts = new Set<Move['part']>(meanings.map(({ part }) => part));
    return (parts.size > 0 ? [...parts] : (['whole'] as const)).flatMap((part): contract.ControlState[] => {
      const place = placeOf({ control: control.key, part });
      const value = panel.values.get(place) ?? null;
      const meaning = meanings.find((own) => own.part === part);
      const lamp = meaning ? this.lampOf(panel, meaning, control) : null;
      if (value === null && lamp === null) return [];
      const delivery = panel.deliveries.get(place) ?? null;
      const waits = meaning?.transfer?.pickUp === 'when_passed' && value !== null && !panel.holding.has(place);
      return [{ control: control.key, part, value, delivery, waits, lamp }];
    });
  }

  private lampOf(
    panel: Panel,
    { assignment, offer, args, drives }: Meaning,
    { lamp }: Pick<surfaces.SurfaceControl, 'lamp'>,
  ): contract.ControlState['lamp'] {
    const first = assignment?.targetId ?? '';
    if (assignment?.does === 'choose_target') {
      const chosen = panel.chosen.get(first) ?? first;
      const own = [first, ...assignment.among][assignment.number ?? 0];
      return { lit: chosen === own, says: chosen === own ? 'chosen' : '', colour: null };
    }
    const feedback = offer?.service.feedback?.find(({ key }) => key === assignment?.feedback);
    if (!offer || !assignment) return null;
    const set = feedback ? undefined : offer.command.sets[0];
    const named = withArgs(feedback?.parameter ?? set?.parameter ?? '', offer.command, args);
    const says = panel.heard.get(`${panel.chosen.get(first) ?? first} ${offer.service.key} ${named}`);
    if (says === undefined && !feedback) return null;
    // without a state that was chosen for it: where what it moves stands, or whether what it does is so now
    const isSo = says === withArgs(set?.value ?? '', offer.command, args);
    if (!feedback && !drives) return { lit: isSo, says: isSo ? (says ?? '') : '', colour: null };
    return { ...surfaces.lampFor(feedback, says, lamp), says: says ?? '' };
  }

  private panelOf(deviceId: string): Panel {
    const known = this.panels.get(deviceId);
    if (known) return known;
    const fresh: Panel = {
      ...{ layer: 0, chosen: new Map(), values: new Map(), deliveries: new Map(), answers: new Map() },
      ...{ holding: new Set(), on: new Set(), heard: new Map() },
    };
    this.panels.set(deviceId, fresh);
    return fresh;
  }
}

/** A parameter's name with the values of a command in it, as `fader 3`. */
const withArgs = (parameter: string, command: core.Command, args: Meaning['args']): string =>
  parameter.replace(/\{(\w+)\}/g, (_, name: string) =>
    String(args[command.args.findIndex((own) => own.name === name)] ?? ''),
  );

/** What of the target the value of a control moves. */
function drivenParameter({ offer, args, drives }: Meaning): string | undefined {
  const set = offer?.command.sets.find(({ value }) => drives && value.includes(`{${drives.name}}`));
  return offer && set && withArgs(set.parameter, offer.command, args);
}

interface Moved {
  readonly device: core.Device;
  readonly control: surfaces.SurfaceControl;
  readonly panel: Panel;
  readonly move: Move;
  /** Which of the things that the control does. */
  readonly at: number;
  readonly value: number;
  readonly before: number | undefined;
}

import { writeWake } from '@deep-patch/codecs';
import { bringup, type contract, type show as core } from '@deep-patch/core';
import { Faults } from './faults/faults.ts';
import { LinkWatch } from './looking/link-watch.ts';
import { lookFor } from './looking/look-for.ts';
import { Rehearsal } from './rehearsal/rehearsal.ts';
import { ScriptRun } from './rehearsal/script-run.ts';
import { pullEach } from './looking/pull-each.ts';
import { outsideOf, scan, type Scanned } from './looking/scan.ts';
import { answers } from './site/answers.ts';
import type { Site } from './site/site.ts';
import { call } from './site/behaviours/callers.ts';
import { putFolder } from './site/behaviours/playout.ts';
import { loseTarget } from './site/behaviours/look-up-once.ts';
import { meet, synchronise } from './site/behaviours/synchronise.ts';
import { followPlan, keyIn, makeAdministrator, putBack, putFirmware, resetToFactory } from './units/keying.ts';
import { setAsPlanned, setMeanwhile } from './units/as-planned.ts';
import { doAct, hold, restartProgram } from './units/pending.ts';
import { staticSetting } from './units/settings.ts';
import { isUp, settingsOf, type Standin } from './units/standin.ts';
import { copyOf, heldAgainst, loadCopy } from './units/contents.ts';
import { dropSet, storeSet, takeSet } from './units/stored-sets.ts';
import { Walls } from './wall/walls.ts';
import { Trials } from './onair/trials.ts';
import { deliver } from './surfaces/deliver.ts';
import { touch } from './soundings/touch.ts';
import { CueRun } from './surfaces/cue-run.ts';
import { Mirrors } from './surfaces/mirrors.ts';
import { Panels } from './surfaces/panels.ts';
import { stopAll } from './surfaces/stop-all.ts';
import { Teaching } from './surfaces/teaching.ts';
import { computersOf, findWayIn, openFrom } from './looking/ways-in.ts';
import { confirmUnit } from './looking/confirm.ts';
import { benchWire } from './looking/wire.ts';

type Doers = {
  [Name in contract.BenchAct['act']]: (wanted: Extract<contract.BenchAct, { act: Name }>) => void | Promise<void>;
};

const wakePort = 9;

/** What acts lead to by and by. */
interface ActHooks {
  readonly found: (scanned: Scanned) => void;
  readonly sounded: (sounding: core.MeasuredSounding) => void;
}

/** Does acts on one site. Throws a plain Error that says why something cannot be done. */
export class SiteActs {
  readonly faults: Faults;
  rehearsal: Rehearsal | undefined;
  script: ScriptRun | undefined;
  looking: contract.LookingState | null = null;
  scanning: contract.ScanState | null = null;
  readonly watch: LinkWatch;
  /** Faults are tried out, one of which will be hidden. */
  private hiding = false;
  pulling: contract.PullingState | null = null;
  confirming: contract.ConfirmingState | null = null;
  private looked: Pick<contract.PartnersState, 'fromId' | 'toId' | 'at' | 'done'> | null = null;
  copied: contract.CopiedState | null = null;
  teaching: Teaching | undefined;
  cueRun: CueRun | undefined;
  tried: contract.Delivery | null = null;
  readonly panels: Panels;
  readonly trials: Trials;
  readonly walls: Walls;
  private readonly mirrors: Mirrors;
  private stopScan: (() => void) | undefined;
  private isPullingStopped = false;
  private readonly site: Site;
  private readonly random: () => number;
  private readonly onFound: (scanned: Scanned) => void;

  constructor(site: Site, random: () => number, tell: ActHooks) {
    this.site = site;
    this.random = random;
    this.onFound = tell.found;
    this.watch = new LinkWatch(site, tell.sounded);
    this.faults = new Faults(site);
    site.onBuilt = () => this.faults.setAgain();
    this.trials = new Trials(site, random);
    this.walls = new Walls(site, random);
    this.mirrors = new Mirrors(site);
    this.panels = new Panels(site, {
      machine: (deviceId, what) => this.doMachine(this.unit(deviceId), what),
      stopAll: (deviceId) => this.do({ act: 'stop_all', deviceId }),
      moved: (deviceId, move) => this.teaching?.moved(deviceId, move),
    });
  }

  async do(wanted: contract.BenchAct): Promise<void> {
    await (this.doers[wanted.act] as (wanted: contract.BenchAct) => void | Promise<void>)(wanted);
  }

  private readonly doers: Doers = {
    set_computer: ({ deviceId, adapter, addresses }) => this.setComputer(this.unit(deviceId), adapter, addresses),
    lead_cable: ({ deviceId, socket, to }) => {
      this.unit(deviceId);
      this.site.lead(deviceId, socket, to);
    },
    set_as_planned: ({ deviceId, ways, meantime }) => this.setAsPlanned(this.unit(deviceId), ways, meantime),
    confirm: ({ deviceId, ip, before }) => this.confirm(this.unit(deviceId), ip, before),
    touch: ({ deviceId, serviceKey, command, args }) => void touch(this.unit(deviceId), serviceKey, command, args),
    name_endpoint: ({ deviceId, endpoint, called }) => {
      const { memory, endpoints } = this.unit(deviceId);
      const { endpointNames } = memory;
      if (!endpoints().includes(endpoint)) throw new Error(`it lists no endpoint “${endpoint}”`);
      if (called === '') endpointNames.delete(endpoint);
      else endpointNames.set(endpoint, called);
    },
    look_for: ({ deviceId }) => this.lookFor(this.unit(deviceId)),
    watch: ({ everySeconds }) => this.watch.set(everySeconds),
    play_script: ({ script }) => {
      this.script?.end();
      this.script = new ScriptRun(script, this.site, this.faults, () => Date.now());
    },
    script_guess: ({ kind, deviceId }) => this.script?.guess(kind, deviceId),
    end_script: () => this.script?.end(),
    close_script: () => {
      this.script?.end();
      this.script = undefined;
    },
    make_administrator: ({ deviceId }) => this.change(deviceId, makeAdministrator),
    put_back: ({ deviceId }) => this.change(deviceId, putBack),
    store_set: ({ deviceId, position, label }) => storeSet(this.unit(deviceId), position, label),
    take_set: ({ deviceId, position }) => this.change(deviceId, (standin) => takeSet(standin, position)),
    drop_set: ({ deviceId, position }) => dropSet(this.unit(deviceId), position),
    restart: ({ deviceIds }) => this.site.restart(deviceIds),
    factory: ({ deviceIds }) => this.rekey(deviceIds, resetToFactory),
    follow_plan: ({ deviceIds }) => this.rekey(deviceIds, followPlan),
    key_in: ({ deviceId, change }) => this.keyIn(this.unit(deviceId), change),
    commit: ({ deviceId, step, of }) => this.commit(this.unit(deviceId), step, of),
    application: ({ deviceId, state }) =>
      this.change(deviceId, (standin) => {
        const { memory } = standin;
        // closed and opened again it takes in what waited for that
        if (memory.application === 'closed' && state !== 'closed') restartProgram(standin);
        memory.application = state;
        if (state !== 'closed') return;
        memory.lookedUp.clear();
        loseTarget(this.site, standin);
      }),
    firewall: ({ deviceId, on }) => this.change(deviceId, ({ memory }) => (memory.firewall = on)),
    helper: ({ deviceId, on }) => this.change(deviceId, ({ memory }) => (memory.helper = on)),
    allow: ({ deviceId, serviceKey, on }) => {
      const { allowed } = this.unit(deviceId).memory;
      if (on) allowed.add(serviceKey);
      else allowed.delete(serviceKey);
    },
    update: ({ deviceId, firmware }) => this.update(this.unit(deviceId), firmware),
    folder: ({ deviceId, clips }) => putFolder(this.unit(deviceId), clips),
    look_up_again: ({ deviceId }) => this.change(deviceId, ({ memory }) => memory.lookedUp.clear()),
    compare: async ({ fromId, toId }) => {
      const [from, to] = [this.unit(fromId), this.unit(toId)];
      await meet(this.site, from, to);
      this.holdAgainst(from, to, null);
    },
    synchronise: ({ fromId, toId }) => this.synchronise(this.unit(fromId), this.unit(toId)),
    store: ({ deviceId }) => void (this.unit(deviceId).memory.storedContents = undefined),
    keep_copy: ({ deviceId }) => {
      const standin = this.awake(deviceId);
      this.copied = { deviceId, copy: copyOf(standin, settingsOf(standin).firmware, Date.now()) };
    },
    load_copy: ({ deviceId, copy }) => {
      const standin = this.awake(deviceId);
      loadCopy(standin, settingsOf(standin).firmware, copy);
    },
    start_ups: ({ mode }) => void (this.site.startUps = mode),
    set_fault: ({ kind, deviceId }) => void this.faults.set(kind, deviceId),
    clear_fault: ({ id }) => this.faults.clear(id),
    forget_heard: () => this.site.tap.forgetAddresses(),
    teach: ({ deviceId }) => {
      this.unit(deviceId);
      this.teaching = new Teaching(this.site, deviceId);
    },
    stop_teaching: () => this.teaching?.stop(),
    send_message: async ({ act: _, ...message }) =>
      void (this.tried = await deliver(this.site, { ...message, args: [...message.args] })),
    stop_all: async ({ deviceId }) => {
      this.cueRun?.end();
      await stopAll(this.site, deviceId);
    },
    machine: ({ deviceId, what }) => this.doMachine(this.unit(deviceId), what),
    cues_from: ({ cueId }) => {
      this.cueRun?.end();
      this.cueRun = new CueRun(this.site, cueId);
    },
    cue_go: async ({ cueId }) => {
      this.cueRun ??= new CueRun(this.site, cueId);
      await this.cueRun.go(cueId);
    },
    cue_skip: () => this.cueRun?.skip(),
    cue_back: () => this.cueRun?.back(),
    cues_end: () => this.cueRun?.end(),
    rehearse_cues: () => {
      this.cueRun?.end();
      this.cueRun = new CueRun(this.site, null);
      void this.cueRun.rehearse();
    },
    feed_level: ({ universe, channel, value }) => void this.site.outside.levels.set(`${universe}.${channel}`, value),
    feed_page: ({ page, says }) => void this.site.outside.pages.set(page, says),
    call: ({ deviceId, channel, caller }) => call(this.site, this.unit(deviceId), channel, caller),
    set_list: ({ deviceId, list, names }) => void this.unit(deviceId).memory.lists.set(list, names),
    wake: ({ deviceId }) => this.wake(this.unit(deviceId)),
    scan: ({ deviceId }) => this.startScan(this.unit(deviceId)),
    stop_scan: () => this.stopScan?.(),
    change_over: ({ stage }) => this.site.changeOver(stage),
    take_times: (wanted) => this.trials.take(wanted),
    try_cuts: (wanted) => this.trials.cut(wanted),
    stop_trial: () => this.trials.stop(),
    wall_power: ({ wallId, on }) => this.walls.power(wallId, on),
    wall_apply: ({ wallId }) => this.walls.apply(wallId),
    wall_store: ({ wallId }) => this.walls.store(wallId),
    wall_detect: ({ wallId }) => this.walls.detect(wallId),
    wall_send: ({ wallId, picture, sender }) => this.walls.send(wallId, picture, sender),
    wall_real: ({ wallId, real }) => this.walls.really(wallId, real),
    wall_hide: ({ wallId, wrongs }) => this.walls.hide(wallId, wrongs),
    pull_each: (wanted) => this.startPulling(wanted),
    stop_pulling: () => this.stopPulling(),
    rehearse: () => this.rehearse(),
    guess: ({ kind, deviceId }) => this.rehearsal?.end({ kind, deviceId }),
    give_up: () => this.rehearsal?.end(null),
    end_rehearsal: () => void (this.rehearsal = undefined),
  };

  /** Somebody searches for what is hidden: what happens where must not be told. */
  hides(): boolean {
    return this.hiding || this.rehearsal?.state.result === null || this.script?.state().over === false;
  }

  /** Looks at what happens by itself: controls that move, and what starts cues. True where something is to be told. */
  look(): boolean {
    this.panels.listen();
    this.mirrors.look();
    this.teaching?.look();
    this.cueRun?.look();
    const { isNew } = this.panels;
    this.panels.isNew = false;
    return isNew || this.teaching?.state().running === true || this.cueRun?.takeNews() === true;
  }

  private doMachine(standin: Standin, what: NonNullable<core.Assignment['machine']>): void | Promise<void> {
    const { device, memory } = standin;
    switch (what) {
      case 'wake':
        return this.wake(standin);
      case 'restart':
        this.site.restart([device.id]);
        return undefined;
      case 'shut_down':
        this.site.power([device.id], false);
        return undefined;
      case 'close':
        return this.do({ act: 'application', deviceId: device.id, state: 'no_show' });
      case 'save':
        this.awake(device.id);
        memory.face.set('saved', new Date().toTimeString().slice(0, 8));
    }
  }

  private change(deviceId: string, work: (standin: Standin) => unknown): void {
    const standin = this.unit(deviceId);
    work(standin);
    this.site.refresh(standin);
  }

  private unit(deviceId: string): Standin {
    const standin = this.site.standins.get(deviceId);
    if (!standin) throw new Error('there is no such unit on the bench');
    return standin;
  }

  private awake(deviceId: string): Standin {
    const standin = this.unit(deviceId);
    if (!isUp(standin)) throw new Error(`${standin.device.name} is not switched on`);
    return standin;
  }

  private holdAgainst(from: Standin, to: Standin, done: number | null): void {
    this.looked = { fromId: from.device.id, toId: to.device.id, at: Date.now(), done };
  }

  /** The two that were held against each other last, as they are now; nothing while one is off. */
  partners(): contract.PartnersState | null {
    if (!this.looked) return null;
    const [from, to] = [this.looked.fromId, this.looked.toId].map((id) => this.site.standins.get(id));
    if (!from || !to || !isUp(from) || !isUp(to)) return null;
    return { ...this.looked, items: heldAgainst(from, to), unstored: to.memory.storedContents !== undefined };
  }

  private async synchronise(from: Standin, to: Standin): Promise<void> {
    if (this.looked?.done != null) throw new Error('a synchronisation is under way');
    if (from === to) throw new Error('it takes two units');
    try {
      await synchronise(this.site, from, to, (done) => this.holdAgainst(from, to, done));
    } finally {
      this.holdAgainst(from, to, null);
    }
  }

  private rekey(deviceIds: readonly string[], change: (standin: Standin) => void): void {
    for (const id of deviceIds) change(this.unit(id));
    this.site.restart(deviceIds.filter((id) => this.unit(id).memory.powered));
  }

  private async keyIn(standin: Standin, change: contract.KeyedChange): Promise<void> {
    if (!isUp(standin)) throw new Error('it has to be switched on to key something in');
    await findWayIn(this.site, standin);
    if (keyIn(standin, change)) this.site.refresh(standin);
  }

  /** An adapter of the technician's computer gets these addresses, or what is planned for it. */
  private setComputer(
    standin: Standin,
    adapter: string,
    addresses: readonly { readonly ip: string; readonly prefix: number; readonly gateway: string | null }[] | null,
  ): void {
    if (!isUp(standin)) throw new Error(`${standin.device.name} is not switched on`);
    const { memory, planned } = standin;
    memory.earlier ??= settingsOf(standin).addresses;
    const whole = addresses?.map(({ ip, prefix, gateway }) => staticSetting(ip, prefix, gateway));
    const own = settingsOf(standin);
    hold(memory, { ...own, addresses: { ...own.addresses, [adapter]: whole ?? planned.addresses[adapter] ?? [] } });
    this.site.refresh(standin);
  }

  private async setAsPlanned(
    standin: Standin,
    ways: Extract<contract.BenchAct, { act: 'set_as_planned' }>['ways'],
    meantime: Extract<contract.BenchAct, { act: 'set_as_planned' }>['meantime'],
  ): Promise<void> {
    await this.site.settled();
    await openFrom(this.mine(), standin, ways);
    const inForce = meantime
      ? setMeanwhile(standin, meantime.adapter, staticSetting(meantime.ip, meantime.prefix, meantime.gateway))
      : setAsPlanned(standin);
    if (inForce) this.site.refresh(standin);
  }

  private async confirm(unit: Standin, ip: string, before: string | null): Promise<void> {
    await this.site.settled();
    const checks = await confirmUnit(this.mine(), unit, ip, before);
    this.confirming = { deviceId: unit.device.id, ip, at: Date.now(), checks };
  }

  private commit(standin: Standin, step: core.CommitAct, of?: core.SettingKind): void {
    const outcome = doAct(standin, step, of);
    if (outcome === 'refresh') this.site.refresh(standin);
    if (outcome === 'restart') this.site.restart([standin.device.id]);
  }

  /** Puts a version on over the network, from the technician's computer: only where that reaches the unit. */
  private async update(standin: Standin, firmware: string): Promise<void> {
    await this.site.settled();
    const computer = this.technician();
    if (!(await answers(computer, standin)))
      throw new Error(`${computer.device.name} does not reach ${standin.device.name}`);
    putFirmware(standin, firmware);
    this.site.restart([standin.device.id]);
  }

  /** Whoever looks around from a computer: the technician's own, or another one that is on. */
  private technician(): Standin {
    const { standins, plan } = this.site;
    const computers = bringup.computersFor(plan.show).flatMap(({ id }) => standins.get(id) ?? []);
    const own = this.ownComputer();
    const found = own && isUp(own) ? own : computers.find((standin) => isUp(standin));
    if (!found) throw new Error('no computer of a technician is switched on');
    return found;
  }

  private ownComputer(): Standin | undefined {
    return this.site.standins.get(bringup.techniciansComputer(this.site.plan.show)?.id ?? '');
  }

  /** Only from there is anything set: not from whichever computer happens to be near. */
  private mine(): Standin {
    const own = this.ownComputer();
    if (!own || !isUp(own)) throw new Error(`${own?.device.name ?? 'The technician’s computer'} is not switched on`);
    return own;
  }

  private async lookFor(unit: Standin): Promise<void> {
    const computer = this.technician();
    if (computer === unit) throw new Error('it is the computer that looks');
    const checks = await lookFor(this.site, computer, unit);
    this.looking = { deviceId: unit.device.id, from: computer.device.name, checks };
  }

  /** Sends the message that wakes a computer, from another one: it cannot wake itself. */
  private async wake(standin: Standin): Promise<void> {
    const sender = computersOf(this.site, standin)[0];
    const mac = standin.host.adapters[0]?.mac;
    if (!sender || mac === undefined) throw new Error('it takes another computer that is switched on');
    await sender.host.sendUdp(0xffffffff, { from: wakePort, to: wakePort }, writeWake(mac));
  }

  private startScan(standin: Standin): void {
    if (this.scanning?.running) throw new Error('a scan is under way');
    if (!isUp(standin)) throw new Error(`${standin.device.name} is not switched on`);
    const wire = benchWire(standin.host);
    let stopped = false;
    this.stopScan = () => (stopped = true);
    const { show } = this.site.plan;
    const adapter = standin.type.adapters[0]?.label ?? 'its adapter';
    const outside = outsideOf(show, wire.adapters(), adapter);
    this.scanning = { running: true, done: 0, total: 0, found: 0, stopped: false, from: standin.device.name, outside };
    const ports = [...new Set([...this.site.standins.values()].flatMap(portsOf))];
    void scan({
      wire,
      name: standin.device.name,
      ports,
      at: Date.now(),
      isStopped: () => stopped,
      tell: (progress) => (this.scanning = this.scanning && { ...this.scanning, ...progress }),
    })
      .then((scanned) => this.onFound(scanned))
      .catch(() => (stopped = true))
      .finally(() => (this.scanning = this.scanning && { ...this.scanning, running: false, stopped }));
  }

  stopPulling(): void {
    this.isPullingStopped = true;
  }

  private startPulling({ cableIds, linkIds }: Extract<contract.BenchAct, { act: 'pull_each' }>): void {
    if (this.pulling?.running) throw new Error('the runs are being pulled already');
    if (this.hides()) throw new Error('a rehearsal is under way');
    const { site } = this;
    const runIds = cableIds.filter((id) => site.cables.has(id));
    const { rev } = site;
    this.isPullingStopped = false;
    const known = { running: true, stopped: false, rev, total: runIds.length, links: linkIds.length };
    this.pulling = { ...known, done: 0, results: [] };
    void pullEach({
      site,
      runIds,
      linkIds: linkIds.filter((id) => site.plan.show.links[id]),
      isStopped: () => this.isPullingStopped,
      tell: (progress) => (this.pulling = { ...known, ...progress }),
    })
      .catch(() => (this.isPullingStopped = true))
      .finally(() => {
        const { pulling } = this;
        this.pulling = pulling && { ...pulling, running: false, stopped: pulling.done < pulling.total };
      });
  }

  private async rehearse(): Promise<void> {
    this.rehearsal?.end(null);
    this.hiding = true;
    try {
      this.rehearsal = await Rehearsal.begin(this.site, this.faults, this.random, () => Date.now());
    } finally {
      this.hiding = false;
    }
    if (!this.rehearsal) throw new Error('no link works yet: switch the units on and mend what the plan has wrong');
  }
}

const portsOf = ({ type }: Standin): number[] =>
  type.services.flatMap(({ transport, receivePort }) => (transport === 'tcp' ? [receivePort] : []));

import { type contract, show as core, type Change } from '@deep-patch/core';
import { openJack, type Jack, type JackDoor } from './jacks/open-jack.ts';
import { startScheduler, type Scheduler } from './ether/scheduler.ts';
import { isUp, serviceOf } from './units/standin.ts';
import { protocols } from './protocols/all.ts';
import { standWhereTheSheetIs } from './site/from-progress.ts';
import { Site } from './site/site.ts';
import { Ageing } from './looking/ageing.ts';
import type { Scanned } from './looking/scan.ts';
import { waysNow } from './looking/ways-in.ts';
import { SiteActs } from './acts.ts';
import type { BenchPlan } from './units/plan.ts';

/** What the server asks of the bench process, one request at a time by number. */
export type BenchRequest =
  | { readonly kind: 'load'; readonly plan: BenchPlan }
  /** Changes behind the revision that is loaded, oldest first; passwords only where they are others. */
  | {
      readonly kind: 'follow';
      readonly showId: string;
      readonly changes: readonly (Change & { readonly rev: number })[];
      readonly passwords: BenchPlan['passwords'] | null;
    }
  | { readonly kind: 'power'; readonly showId: string; readonly deviceIds: readonly string[]; readonly on: boolean }
  | { readonly kind: 'moves'; readonly showId: string; readonly moved: contract.Moves }
  | { readonly kind: 'sound'; readonly showId: string; readonly linkId: string }
  | { readonly kind: 'act'; readonly showId: string; readonly wanted: contract.BenchAct }
  | { readonly kind: 'state' | 'heard' | 'addresses' | 'capture' | 'unload'; readonly showId: string }
  | { readonly kind: 'ways'; readonly showId: string; readonly deviceId: string }
  | { readonly kind: 'frame'; readonly showId: string; readonly number: number }
  | {
      readonly kind: 'jack';
      readonly showId: string;
      readonly deviceId: string;
      readonly serviceKey: string;
      readonly replyTo: number | null;
    }
  | { readonly kind: 'close-jack'; readonly showId: string; readonly port: number };

/** What the bench tells by itself. */
export type BenchEvent =
  | { readonly kind: 'state'; readonly state: contract.BenchState }
  | { readonly kind: 'tap'; readonly news: contract.TapNews }
  | ({ readonly kind: 'found'; readonly showId: string } & Scanned)
  | { readonly kind: 'sounded'; readonly showId: string; readonly sounding: core.MeasuredSounding }
  /** Something happened to what these links depend on: whatever was proved of them before is not of now. */
  | { readonly kind: 'aged'; readonly showId: string; readonly linkIds: readonly string[]; readonly at: number };

interface Entry {
  readonly site: Site;
  readonly acts: SiteActs;
  readonly ageing: Ageing;
  jacks: Jack[];
  /** Jacks that are being opened. */
  opening: number;
  /** What was told last, to tell only what changed. */
  told: string;
}

const tapEveryMs = 100;
/** As many as a tap shows when its screen opens. */
const linesOfAState = 60;
/** Each holds ports and a thread of the machine. */
const mostJacks = 32;
/** Every fourth time units are told too, where any changed. */
const tapsAState = 4;

/** All shows' sites in one process. Throws a plain Error for a request that cannot be met. */
export class Bench {
  private readonly sites = new Map<string, Entry>();
  private readonly scheduler: Scheduler;
  private readonly random: () => number;
  private timer: NodeJS.Timeout | undefined;
  private seq = 0;

  constructor(speed = 1, random: () => number = Math.random) {
    this.scheduler = startScheduler(speed);
    this.random = random;
  }

  /** Tells from now on what happens by itself: the tap ten times a second, units that change, what scans found. */
  tellEvents(tell: (event: BenchEvent) => void): void {
    this.onEvent = tell;
    let times = 0;
    this.timer = setInterval(() => {
      times += 1;
      this.eachSite((showId, entry) => {
        this.tellTap(showId, entry.site);
        if (entry.acts.look() || times % tapsAState === 0) this.tellState(showId, entry);
      });
    }, tapEveryMs);
    this.timer.unref();
  }

  async handle(request: BenchRequest): Promise<unknown> {
    this.scheduler.catchUp();
    if (request.kind === 'load') return this.load(request.plan);
    const entry = this.sites.get(request.showId);
    if (!entry) throw new Error('not loaded');
    try {
      return await this.answer(request, entry);
    } finally {
      if (this.sites.get(request.showId) === entry) this.tellAged(request.showId, entry);
    }
  }

  private async answer(request: Exclude<BenchRequest, { kind: 'load' }>, entry: Entry): Promise<unknown> {
    switch (request.kind) {
      case 'power':
        entry.site.power(request.deviceIds, request.on);
        return this.state(request.showId, entry);
      case 'sound':
        return (await entry.site.sound(request.linkId)) ?? null;
      case 'act':
        await entry.acts.do(request.wanted);
        return this.state(request.showId, entry);
      case 'moves':
        entry.acts.panels.listen();
        entry.acts.panels.move(request.moved.deviceId, request.moved.moves);
        return null;
      case 'follow':
        if (request.passwords === null && request.changes.every(isQuietHere)) {
          entry.site.renew(followed(entry.site.given, request));
          return this.state(request.showId, entry);
        }
        return this.load(followed(entry.site.given, request));
      case 'state':
        return this.state(request.showId, entry);
      case 'unload':
        this.unload(request.showId, entry);
        return null;
      case 'heard':
        return entry.site.tap.last(linesOfAState);
      case 'addresses':
        return entry.site.tap.heardAddresses();
      case 'ways': {
        const standin = entry.site.standins.get(request.deviceId);
        return standin ? waysNow(entry.site, standin) : [];
      }
      case 'frame':
        return entry.site.tap.anatomy(request.number) ?? null;
      case 'capture':
        return Buffer.from(entry.site.tap.capture('bench')).toString('base64');
      case 'jack':
        return this.openJack(entry, request);
      case 'close-jack':
        for (const jack of entry.jacks) if (jack.port === request.port) jack.close();
        entry.jacks = entry.jacks.filter(({ port }) => port !== request.port);
        return this.state(request.showId, entry);
    }
  }

  /** Everything of a show ends: what runs on its site, and the jacks in front of it. */
  private unload(showId: string, entry: Entry): void {
    this.sites.delete(showId);
    leave(entry);
    entry.site.load({ show: core.emptyShow({ id: showId, name: '' }), passwords: {} });
  }

  stop(): void {
    clearInterval(this.timer);
    for (const entry of this.sites.values()) leave(entry);
    this.scheduler.stop();
  }

  private onEvent: (event: BenchEvent) => void = () => undefined;

  private eachSite(work: (showId: string, entry: Entry) => void): void {
    for (const [showId, entry] of this.sites) work(showId, entry);
  }

  private tellTap(showId: string, { tap }: Site): void {
    const news = tap.news(tapEveryMs);
    if (news) this.onEvent({ kind: 'tap', news: { showId, ...news } });
  }

  private tellState(showId: string, entry: Entry): void {
    this.tellAged(showId, entry);
    const state = this.state(showId, entry);
    const text = JSON.stringify({ ...state, seq: 0, heard: [] });
    if (text !== entry.told) this.onEvent({ kind: 'state', state });
    entry.told = text;
  }

  private tellAged(showId: string, { site, acts, ageing }: Entry): void {
    const linkIds = ageing.linksSince(site, acts.hides());
    if (linkIds.length > 0) this.onEvent({ kind: 'aged', showId, linkIds, at: Date.now() });
  }

  private load(plan: BenchPlan): contract.BenchState {
    const showId = plan.show.id;
    const known = this.sites.get(showId);
    known?.site.load(plan);
    const entry = known ?? this.enter(plan);
    this.sites.set(showId, entry);
    entry.ageing.begin(entry.site);
    return this.state(showId, entry);
  }

  private enter(plan: BenchPlan): Entry {
    const site = new Site(plan, this.scheduler, this.random);
    standWhereTheSheetIs(site);
    const showId = plan.show.id;
    const acts = new SiteActs(site, this.random, {
      found: (scanned) => this.onEvent({ kind: 'found', showId, ...scanned }),
      sounded: (sounding) => this.onEvent({ kind: 'sounded', showId, sounding }),
    });
    const entry: Entry = { site, acts, ageing: new Ageing(), jacks: [], opening: 0, told: '' };
    site.onSettled = () => this.tellAged(showId, entry);
    return entry;
  }

  private state(showId: string, { site, acts, jacks }: Entry): contract.BenchState {
    return {
      showId,
      rev: site.rev,
      seq: this.nextSeq(),
      startUps: site.startUps,
      stage: site.stage,
      pulling: acts.pulling,
      standins: site.states(),
      heard: site.tap.last(linesOfAState),
      jacks: jacks.map(({ close: _, dropped, ...jack }) => ({ ...jack, dropped: dropped() })),
      faults: acts.faults.list(),
      rehearsal: acts.rehearsal?.state ?? null,
      scan: acts.scanning,
      script: acts.script?.state() ?? null,
      looking: acts.looking,
      confirming: acts.confirming,
      partners: acts.partners(),
      copied: acts.copied,
      panels: acts.panels.states(),
      teaching: acts.teaching?.state() ?? null,
      stepped: acts.panels.stepping.last,
      cueRun: acts.cueRun?.state() ?? null,
      tried: acts.tried,
      trial: acts.trials.state,
      walls: acts.walls.states(),
      watch: { everySeconds: acts.watch.everySeconds, changes: [...acts.watch.changes] },
    };
  }

  /** From the clock, so that it also grows over a restart of the bench. */
  private nextSeq(): number {
    this.seq = Math.max(this.seq + 1, Date.now());
    return this.seq;
  }

  private async openJack(
    entry: Entry,
    { deviceId, serviceKey, replyTo, showId }: BenchRequest & { kind: 'jack' },
  ): Promise<contract.BenchState> {
    const service = entry.site.standins.get(deviceId)?.type.services.find(({ key }) => key === serviceKey);
    if (!service) throw new Error('no such service');
    if (entry.jacks.length + entry.opening >= mostJacks)
      throw new Error(`${mostJacks} jacks are open: close one that nobody uses`);
    const { ports, weigh } = protocols[service.protocol].jack;
    entry.opening += 1;
    const jack = await openJack({
      deviceId,
      serviceKey,
      replyTo,
      transport: service.transport,
      ports,
      weigh: weigh ?? (() => 1),
      unit: () => unitAt(entry.site, deviceId, serviceKey),
      scheduler: this.scheduler,
      tell: (frame) => entry.site.tap.take(frame),
    }).finally(() => (entry.opening -= 1));
    if (this.sites.get(showId) !== entry) {
      jack.close();
      throw new Error('not loaded');
    }
    entry.jacks.push(jack);
    return this.state(showId, entry);
  }
}

/** Tables of which nothing on the bench depends: what was keyed in and how far somebody has come is true of the units there. */
const quietTables: ReadonlySet<core.TableName> = new Set([
  ...(['keyedIn', 'progress', 'documents', 'contacts'] as const),
  ...(['controls', 'assignments', 'banks', 'cues'] as const),
  ...(['inputRules', 'clips', 'walls'] as const),
]);
const isQuietHere = ({ edits }: Change): boolean => edits.every(({ table }) => quietTables.has(table));

function leave({ jacks, acts }: Entry): void {
  acts.watch.set(null);
  acts.stopPulling();
  acts.trials.stop();
  acts.script?.end();
  for (const jack of jacks) jack.close();
}

/** Looked up anew each time: a changed plan replaces the stand-in, the jack stays. */
function unitAt(site: Site, deviceId: string, serviceKey: string): ReturnType<JackDoor['unit']> {
  const standin = site.standins.get(deviceId);
  const port = standin && serviceOf(standin, serviceKey)?.receivePort;
  if (!standin || port === undefined || !isUp(standin)) return undefined;
  const { host } = standin;
  return { host, mac: host.adapters[0]?.mac ?? '', port };
}

/** A plan after further changes. Throws where they do not begin at its revision. */
function followed(
  plan: BenchPlan,
  { changes, passwords }: Pick<Extract<BenchRequest, { kind: 'follow' }>, 'changes' | 'passwords'>,
): BenchPlan {
  let { show } = plan;
  for (const change of changes) {
    if (change.rev !== show.rev + 1) throw new Error('changes are missing');
    show = core.written(show, change, change.rev);
  }
  return { ...plan, show, passwords: passwords ?? plan.passwords };
}

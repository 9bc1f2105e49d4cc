import type { BenchEvent, BenchPlan, BenchRequest } from '@deep-patch/bench';
import { contract, type show as core } from '@deep-patch/core';
import type { Pool } from 'pg';
import { changesSince, type LoggedChange } from '../db/log.ts';
import { ageSoundings, keepScan, keepSounding } from '../db/observations.ts';
import { openSecrets } from '../db/secrets.ts';
import { loadShow } from '../db/shows.ts';
import { Failure } from '../http/failure.ts';
import type { BenchProcess } from '../live/bench-process.ts';
import type { Hub } from '../live/hub.ts';

/** So long a show stays on the bench when its last tab is closed. */
const unusedMs = 15 * 60_000;

/** Keeps the bench at the plan's revision and tells the tabs what it shows. Shows appear on it when first asked for. */
export class BenchRoom {
  /** The revision on the bench by show. */
  private readonly loaded = new Map<string, number>();
  /** What the tabs of a show know of its bench: they are only told what is new. */
  private readonly told = new Map<string, contract.BenchState>();
  /** When something was asked of a show's bench last. */
  private readonly usedAt = new Map<string, number>();
  private readonly turns = new Map<string, Promise<void>>();
  /** Shows that wait for their turn to follow the plan. */
  private readonly following = new Set<string>();
  private readonly pool: Pool;
  private readonly key: Buffer;
  private readonly bench: BenchProcess;
  private readonly hub: Hub;

  constructor(parts: { pool: Pool; key: Buffer; bench: BenchProcess; hub: Hub }) {
    this.pool = parts.pool;
    this.key = parts.key;
    this.bench = parts.bench;
    this.hub = parts.hub;
  }

  state(showId: string): Promise<contract.BenchState> {
    return this.inTurn(showId, () => this.news(showId));
  }

  power(showId: string, deviceIds: readonly string[], on: boolean): Promise<contract.BenchState> {
    return this.change({ kind: 'power', showId, deviceIds, on });
  }

  act(showId: string, wanted: contract.BenchAct): Promise<contract.BenchState> {
    return this.change({ kind: 'act', showId, wanted });
  }

  /**
   * Controls of a surface were moved: passed on at once, in the order in which they come, past whatever else is asked of
   * the show; what becomes of them is told as news. They wait only where the bench still has an older plan than
   * whoever moves: what a control was given a moment ago is what it does.
   */
  async moves(showId: string, moved: contract.Moves, rev: number): Promise<void> {
    const known = this.loaded.get(showId);
    if (known === undefined || known < rev) await this.state(showId);
    this.usedAt.set(showId, Date.now());
    await this.bench.ask({ kind: 'moves', showId, moved });
  }

  /** The OSC addresses that were heard, in alphabetical order. */
  addresses(showId: string): Promise<contract.HeardAddress[]> {
    return this.inTurn(showId, () => this.bench.ask({ kind: 'addresses', showId }));
  }

  /** Which ways to a unit's settings are open now; none for a unit that the bench does not have. */
  ways(showId: string, deviceId: string): Promise<contract.WayNow[]> {
    return this.inTurn(showId, () => this.bench.ask({ kind: 'ways', showId, deviceId }));
  }

  /** What each byte of a frame stands for; null when it is not kept any more. */
  frame(showId: string, number: number): Promise<contract.FrameAnatomy | null> {
    return this.inTurn(showId, () => this.bench.ask({ kind: 'frame', showId, number }));
  }

  /** What went over the simulated network lately, as a pcapng file. */
  capture(showId: string): Promise<Buffer> {
    return this.inTurn(showId, async () => {
      const text = await this.bench.ask<string>({ kind: 'capture', showId });
      return Buffer.from(text, 'base64');
    });
  }

  /** What the bench tells by itself goes to the tabs; what a scan found is kept. */
  async heed(event: BenchEvent): Promise<void> {
    if (event.kind === 'state') this.tellState(event.state);
    else if (event.kind === 'tap') this.hub.tell({ topic: 'tap', showId: event.news.showId, news: event.news });
    else if (event.kind === 'sounded') {
      await keepSounding(this.pool, event.showId, event.sounding);
      this.hub.tell({ topic: 'seen', showId: event.showId });
    } else if (event.kind === 'aged') {
      if (await ageSoundings(this.pool, event.showId, event.linkIds, event.at))
        this.hub.tell({ topic: 'seen', showId: event.showId });
    } else {
      await keepScan(this.pool, event.showId, event);
      this.hub.tell({ topic: 'seen', showId: event.showId });
    }
  }

  jack(
    showId: string,
    door: { deviceId: string; serviceKey: string; replyTo: number | null },
  ): Promise<contract.BenchState> {
    return this.change({ kind: 'jack', showId, ...door });
  }

  closeJack(showId: string, port: number): Promise<contract.BenchState> {
    return this.change({ kind: 'close-jack', showId, port });
  }

  sound(showId: string, linkId: string): Promise<core.MeasuredSounding> {
    return this.inTurn(showId, async () => {
      const sounding = await this.bench.ask<core.MeasuredSounding | null>({ kind: 'sound', showId, linkId });
      if (!sounding) throw new Failure('LINK_NOT_FOUND', { linkId });
      await keepSounding(this.pool, showId, sounding);
      this.hub.tell({ topic: 'seen', showId });
      await this.news(showId);
      return sounding;
    });
  }

  /** Tells a tab that joins what the others know, if this show is on the bench at all. */
  async welcome(showId: string, tell: Hub['tell']): Promise<void> {
    if (!this.loaded.has(showId)) return;
    if (!this.told.has(showId)) await this.news(showId);
    // lines of the tap go by themselves: the others had those that came since a state was told
    const heard = await this.bench.ask<contract.HeardMessage[]>({ kind: 'heard', showId });
    const state = this.told.get(showId);
    if (state) tell({ topic: 'bench', showId, state: { ...state, heard } });
  }

  /** The show was deleted, or nobody looks at it: its site ends, with its jacks. */
  async drop(showId: string): Promise<void> {
    if (!this.loaded.has(showId)) return;
    await this.queue(showId, async () => {
      this.loaded.delete(showId);
      this.told.delete(showId);
      this.usedAt.delete(showId);
      await this.bench.ask({ kind: 'unload', showId });
    });
  }

  /** The plan moved: a show that is on the bench follows it, once for all changes that come before its turn. */
  async follow(showId: string): Promise<void> {
    if (!this.loaded.has(showId) || this.following.has(showId)) return;
    this.following.add(showId);
    await this.queue(showId, async () => {
      // what moves from here on is news
      this.following.delete(showId);
      await this.load(showId);
      await this.news(showId);
    });
  }

  forget(): void {
    const shows = [...this.loaded.keys()];
    this.loaded.clear();
    this.told.clear();
    for (const showId of shows) this.hub.tell({ topic: 'bench', showId, state: null });
  }

  private change(request: BenchRequest & { showId: string }): Promise<contract.BenchState> {
    return this.inTurn(request.showId, async () => {
      const state = await this.bench.ask<contract.BenchState>(request);
      this.tellState(state);
      return state;
    });
  }

  /** The state of now, which the tabs are told as well. */
  private async news(showId: string): Promise<contract.BenchState> {
    const state = await this.bench.ask<contract.BenchState>({ kind: 'state', showId });
    this.tellState(state);
    return state;
  }

  /**
   * Does one thing of a show after the other, each on the newest plan: a plan that is loaded while a sounding runs
   * would pull its cables out.
   */
  private inTurn<Result>(showId: string, work: () => Promise<Result>): Promise<Result> {
    return this.queue(showId, async () => {
      await this.load(showId);
      return work();
    });
  }

  private queue<Result>(showId: string, work: () => Promise<Result>): Promise<Result> {
    const before = this.turns.get(showId) ?? Promise.resolve();
    const mine = before.then(work);
    const settled = mine.then(
      () => undefined,
      () => undefined,
    );
    this.turns.set(showId, settled);
    // the last one leaves nothing behind: whatever ids are asked for, nothing grows
    void settled.then(() => {
      if (this.turns.get(showId) === settled) this.turns.delete(showId);
    });
    return mine;
  }

  /** Brings the bench to the newest revision: by the changes since, or by the whole plan where that is the shorter way. */
  private async load(showId: string): Promise<void> {
    this.usedAt.set(showId, Date.now());
    const known = this.loaded.get(showId);
    const changes = known === undefined ? undefined : await changesSince(this.pool, showId, known);
    if (!changes || !(await this.followed(showId, changes))) await this.loadWhole(showId);
  }

  private async followed(showId: string, changes: readonly LoggedChange[]): Promise<boolean> {
    const last = changes.at(-1);
    if (!last) return true;
    const areOther = changes.some(({ edits }) => edits.some(({ after }) => after !== null && 'secretId' in after));
    const passwords = areOther ? await openSecrets(this.pool, this.key, showId) : null;
    try {
      await this.bench.ask({ kind: 'follow', showId, changes, passwords });
    } catch (error) {
      // the bench has another revision than was thought
      if (error instanceof Failure && error.code === 'BENCH_REFUSED') return false;
      throw error;
    }
    this.loaded.set(showId, last.rev);
    return true;
  }

  private async loadWhole(showId: string): Promise<void> {
    const show = await loadShow(this.pool, showId);
    const plan: BenchPlan = { show, passwords: await openSecrets(this.pool, this.key, showId) };
    await this.bench.ask({ kind: 'load', plan });
    this.loaded.set(showId, show.rev);
  }

  /** Shows that nobody looks at, and to which no outside tool has a way, are taken off the bench. */
  async unloadUnused(now = Date.now()): Promise<void> {
    for (const showId of this.loaded.keys()) {
      const isUsed = this.hub.here(showId) > 0 || now - (this.usedAt.get(showId) ?? 0) < unusedMs;
      if (!isUsed && (this.told.get(showId)?.jacks.length ?? 0) === 0) await this.drop(showId);
    }
  }

  private tellState(state: contract.BenchState): void {
    const { showId } = state;
    const before = this.told.get(showId);
    if (before && before.seq >= state.seq) return;
    this.told.set(showId, state);
    this.hub.tell(
      before
        ? { topic: 'bench-news', showId, difference: contract.benchDifference(before, state) }
        : { topic: 'bench', showId, state },
    );
  }
}

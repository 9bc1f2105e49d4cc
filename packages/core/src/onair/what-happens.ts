import type { RateKey, Show } from '../show/index.ts';
import { airInputsOf, offeredList, type AirInput } from './inputs.ts';
import { ratesOfPictures } from './picture-rates.ts';

/** Somebody presses a cut, or does something at a player by hand; seconds from the beginning. */
export type Deed =
  | { readonly at: number; readonly do: 'cut'; readonly input: number }
  | { readonly at: number; readonly do: 'play' | 'stop'; readonly input: number }
  | { readonly at: number; readonly do: 'select'; readonly input: number; readonly list: string };

/** What follows: `starts` is the order that a player obeys; it moves a little later. */
export interface Happening {
  readonly at: number;
  readonly what: 'on_air' | 'starts' | 'stops' | 'holds' | 'ready' | 'ends' | 'nothing';
  readonly input: number;
  /** The item of the player that it is about; empty where it has no list. */
  readonly item: string;
}

interface Player {
  readonly input: AirInput;
  at: number;
  state: 'ready' | 'plays' | 'held' | 'stopped';
  /** What stands or moves there, which another list does not change; undefined before anything was played. */
  shown: string | undefined;
  endsAt: number;
  selected: string | undefined;
}

/** The frames of a switcher in a second; 25 where nobody has said. */
export const pictureRate = (rate: RateKey | null): number => ratesOfPictures[rate ?? '25'];

/**
 * Works out what a sequence of cuts starts, stops and makes ready (C65), by what was ruled for each input. Cuts of a
 * switcher come one after the other: a cut during the take delay replaces the one before it.
 */
export function whatHappens(show: Show, switcherId: string, deeds: readonly Deed[], onAir: number): Happening[] {
  const inputs = inputsOfSwitcher(show, switcherId);
  return new Course(show, inputs, onAir).run(deeds);
}

const inputsOfSwitcher = (show: Show, id: string): AirInput[] => {
  const switcher = show.devices[id];
  return switcher ? airInputsOf(show, switcher) : [];
};

class Course {
  private readonly show: Show;
  private readonly inputs: readonly AirInput[];
  private readonly players = new Map<string, Player>();
  private readonly found: Happening[] = [];
  private readonly delay: number;
  private onAir: number;
  private coming: { readonly at: number; readonly input: number } | undefined;

  constructor(show: Show, inputs: readonly AirInput[], onAir: number) {
    this.show = show;
    this.inputs = inputs;
    this.onAir = onAir;
    const switcher = inputs[0]?.switcher;
    this.delay = (switcher?.takeDelay ?? 0) / pictureRate(switcher?.rate ?? null);
    for (const input of inputs)
      if (input.player)
        this.players.set(input.player.id, {
          input,
          at: 0,
          state: 'ready',
          shown: undefined,
          endsAt: Infinity,
          selected: undefined,
        });
  }

  run(deeds: readonly Deed[]): Happening[] {
    for (const deed of deeds.toSorted((a, b) => a.at - b.at)) {
      this.upTo(deed.at);
      this.do(deed);
    }
    this.upTo(Infinity);
    return inMoments(this.found);
  }

  /** Everything that is due before somebody does the next thing, in its order. */
  private upTo(at: number): void {
    for (;;) {
      const ending = [...this.players.values()].reduce<Player | undefined>(
        (first, player) => (player.endsAt < (first?.endsAt ?? Infinity) ? player : first),
        undefined,
      );
      const next = Math.min(ending?.endsAt ?? Infinity, this.coming?.at ?? Infinity);
      if (next > at || next === Infinity) return;
      if (this.coming && this.coming.at === next) this.change();
      else if (ending) this.end(ending);
    }
  }

  private do(deed: Deed): void {
    if (deed.do === 'cut') this.cut(deed.at, deed.input);
    else {
      const player = this.playerOn(deed.input);
      if (!player) this.note(deed.at, 'nothing', deed.input);
      else if (deed.do === 'select') this.select(player, deed.list);
      else if (deed.do === 'play') this.start(deed.at, player);
      else this.stop(deed.at, player, 'stops');
    }
  }

  private cut(at: number, input: number): void {
    if (this.coming?.input === input || (this.onAir === input && !this.coming)) return;
    this.coming = { at: at + this.delay, input };
    const player = this.playerOn(input);
    if (player?.input.rule.goes === 'with_cut') this.start(at, player);
    this.upTo(at);
  }

  private change(): void {
    const { coming } = this;
    if (!coming) return;
    this.coming = undefined;
    const left = this.onAir;
    if (left === coming.input) return;
    this.onAir = coming.input;
    this.note(coming.at, 'on_air', coming.input);
    this.leave(coming.at, left);
    const player = this.playerOn(coming.input);
    if (player?.input.rule.goes === 'when_on_air') this.start(coming.at, player);
  }

  private leave(at: number, input: number): void {
    const player = this.playerOn(input);
    if (!player) return;
    const { leaves } = player.input.rule;
    if (leaves === 'stop') this.stop(at, player, 'stops');
    else if (leaves === 'hold' && player.state === 'plays') this.stop(at, player, 'holds');
    else if (leaves === 'next') {
      player.at = Math.min(player.at + 1, Math.max(0, this.itemsOf(player).length - 1));
      player.state = 'ready';
      player.endsAt = Infinity;
      player.shown = this.itemOf(player);
      this.note(at, 'ready', input, player.shown);
    }
  }

  private start(at: number, player: Player): void {
    player.state = 'plays';
    const seconds = this.itemsOf(player)[player.at]?.seconds ?? null;
    player.endsAt = seconds === null ? Infinity : at + seconds;
    player.shown = this.itemOf(player);
    this.note(at, 'starts', player.input.number, player.shown);
  }

  private stop(at: number, player: Player, what: 'stops' | 'holds'): void {
    if (player.state !== 'plays' && what === 'holds') return;
    player.state = what === 'holds' ? 'held' : 'stopped';
    player.endsAt = Infinity;
    this.note(at, what, player.input.number, player.shown ?? this.itemOf(player));
  }

  private end(player: Player): void {
    this.note(player.endsAt, 'ends', player.input.number, player.shown);
    player.state = 'held';
    player.endsAt = Infinity;
  }

  /** Another list at the player: what the switcher is offered follows, unless it has one of its own. */
  private select(player: Player, list: string): void {
    const before = this.listOf(player)?.name;
    player.selected = list;
    if (this.listOf(player)?.name !== before) player.at = 0;
  }

  private playerOn(input: number): Player | undefined {
    const { player } = this.inputs.find(({ number }) => number === input) ?? {};
    return player && this.players.get(player.id);
  }

  private readonly listOf = ({ input, selected }: Player) => offeredList(this.show, input, selected);

  private readonly itemsOf = (player: Player) => this.listOf(player)?.items ?? [];

  private readonly itemOf = (player: Player): string => this.itemsOf(player)[player.at]?.name ?? '';

  private note(at: number, what: Happening['what'], input: number, item = ''): void {
    this.found.push({ at, what, input, item });
  }
}

/** What comes within so many seconds is one moment: which of it is first, nobody sees. */
const moment = 0.05;

/** In the order of moments, and within one in an order of their own, so that two courses read alike. */
export function inMoments(happenings: readonly Happening[]): Happening[] {
  const moments: Happening[][] = [];
  for (const one of happenings.toSorted((a, b) => a.at - b.at)) {
    const last = moments.at(-1);
    if (last?.[0] && one.at - last[0].at < moment) last.push(one);
    else moments.push([one]);
  }
  const place = ({ what, input }: Happening) => order.indexOf(what) * 10_000 + input;
  return moments.flatMap((together) => together.sort((a, b) => place(a) - place(b)));
}
const order: readonly Happening['what'][] = ['starts', 'on_air', 'stops', 'holds', 'ready', 'ends', 'nothing'];

/** The same things in both, whenever they come: the first that differs, or undefined. */
export function firstDifference(
  forecast: readonly Happening[],
  happened: readonly Happening[],
):
  | { readonly at: number; readonly forecast: Happening | undefined; readonly happened: Happening | undefined }
  | undefined {
  const length = Math.max(forecast.length, happened.length);
  for (let at = 0; at < length; at += 1) {
    const [a, b] = [forecast[at], happened[at]];
    if (a?.what !== b?.what || a?.input !== b?.input || a?.item !== b?.item) return { at, forecast: a, happened: b };
  }
  return undefined;
}

const cutPart = /^(?:(?<deed>cut|play|stop)\s+)?(?<input>\d{1,4})(?:\s+(?:at\s+)?(?<time>\d+(?:\.\d+)?)\s*s?)?$/i;
/** A list may end with a figure: here only “at” says that a time follows. */
const selectPart = /^select\s+(?<input>\d{1,4})\s+(?<list>\S.*?)(?:\s+at\s+(?<time>\d+(?:\.\d+)?)\s*s?)?$/i;

/** Typed cuts: `5, 1 at 12.5, play 6 at 20, select 6 Breaks at 30`; each without a time comes two seconds after the one before. */
export function readDeeds(text: string): { readonly deeds: readonly Deed[]; readonly faults: readonly string[] } {
  const deeds: Deed[] = [];
  const faults: string[] = [];
  let now = -2;
  for (const part of text
    .split(/[,;\n]+/)
    .map((each) => each.trim())
    .filter(Boolean)) {
    const read = selectPart.exec(part) ?? cutPart.exec(part);
    if (!read?.groups) {
      faults.push(
        `“${part}” is no cut. Type an input, such as 5, or 5 at 12.5, or play 5, or stop 5, or select 5 and the name of a list.`,
      );
      continue;
    }
    const { deed = 'cut', input = '', list, time } = read.groups;
    now = time === undefined ? now + 2 : Number(time);
    const at = { at: now, input: Number(input) };
    if (list !== undefined) deeds.push({ ...at, do: 'select', list });
    else deeds.push({ ...at, do: deed.toLowerCase() as 'cut' | 'play' | 'stop' });
  }
  return { deeds, faults };
}

import { onair, show as core } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, type Standin } from '../../units/standin.ts';

/** Of a start, so much passes before anything begins; the rest until the first frame moves. */
const shareBeforeStart = 0.4;

/**
 * A list that follows a watched folder: what is taken out of the folder leaves the list, except what is on air, which
 * stays until it is over.
 */
export function putFolder({ memory }: Standin, clips: readonly string[]): void {
  const onAir = memory.folder.find((clip) => clip === memory.face.get('clip')?.replace(/^playing /, ''));
  memory.folder = onAir === undefined || clips.includes(onAir) ? [...clips] : [onAir, ...clips];
}

/**
 * What a player does about its orders: it starts after its time, which is never quite the same, shows titles at their
 * times, ends with the length of the item and then holds its last picture.
 */
export function playsClips(site: Surroundings, player: Standin): void {
  const { plays } = player.type;
  if (!plays) return;
  const course = new Course(site, player);
  player.followers.push((command, values) => course.order(command.key, values));
  player.renewers.push(() => course.look());
  player.closers.push(() => course.forget());
  course.showList();
}

class Course {
  private readonly site: Surroundings;
  private readonly player: Standin;
  private selected: string | undefined;
  /** The list that it offered when it was looked at last. */
  private known = '—';
  /** Counts from 1, as it is ordered. */
  private ready = 1;
  private isPlaying = false;
  /** What stands or moves, whichever list is offered now. */
  private shown: string | undefined;
  private waiting: (() => void)[] = [];

  constructor(site: Surroundings, player: Standin) {
    this.site = site;
    this.player = player;
  }

  order(key: string, values: ReadonlyMap<string, string>): void {
    if (key === 'play') this.play(Number(values.get('clip')) || 1);
    else if (key === 'stop') this.halt('stops', 'black');
    else if (key === 'hold') this.halt('holds', 'last frame, still');
    else if (key === 'ready') this.makeReady(Number(values.get('clip')) || 1);
    else if (key === 'select') this.select(values.get('list') ?? '');
  }

  forget(): void {
    for (const cancel of this.waiting.splice(0)) cancel();
  }

  showList(): void {
    this.known = this.offered()?.name ?? '—';
    this.face('item', String(this.ready));
    this.face('list', this.known);
  }

  private play(number: number): void {
    const { plays } = this.player.type;
    if (!plays) return;
    this.forget();
    this.isPlaying = true;
    this.setReady(number);
    const item = this.offered()?.items[number - 1];
    const name = item?.name ?? '';
    this.shown = name;
    this.note('arrives', name);
    this.face('picture', 'first frame, still');
    this.face('title', '—');
    const takes = plays.startMs + this.site.random() * plays.jitterMs;
    this.after(takes * shareBeforeStart, () => this.note('starts', name));
    this.after(takes, () => {
      this.face('picture', 'moving');
      this.note('moves', name);
      if (item) this.runItem(item);
    });
  }

  /** From its first moving frame on. */
  private runItem(item: core.Clip): void {
    for (const { at, text, lasts } of item.actions) {
      this.after(at * 1000, () => this.face('title', text));
      if (lasts !== null) this.after((at + lasts) * 1000, () => this.face('title', '—'));
    }
    if (item.seconds === null) return;
    this.after(item.seconds * 1000, () => {
      this.forget();
      this.isPlaying = false;
      this.face('clip', 'ended');
      this.face('picture', 'last frame, still');
      this.face('title', '—');
      this.note('ends', item.name);
    });
  }

  private halt(what: 'stops' | 'holds', picture: string): void {
    // what stands already holds nothing
    if (what === 'holds' && !this.isPlaying) return;
    this.forget();
    this.isPlaying = false;
    this.face('picture', picture);
    this.face('title', '—');
    this.note(what, this.shown ?? this.itemName());
  }

  private makeReady(number: number): void {
    this.forget();
    this.isPlaying = false;
    this.setReady(number);
    this.face('picture', 'first frame, still');
    this.shown = this.itemName();
    this.note('ready', this.shown);
  }

  /** Offers it another list than it did, the first item of that is the next one. */
  look(): void {
    const before = this.known;
    this.showList();
    if (before === this.known) return;
    this.setReady(1);
    this.note('list', this.known);
  }

  private select(list: string): void {
    this.selected = list;
    this.look();
  }

  /** Its own screen says which item a hand at it would start. */
  private setReady(number: number): void {
    this.ready = number;
    this.face('item', String(number));
  }

  private itemName = (): string => this.offered()?.items[this.ready - 1]?.name ?? '';

  /** What the switcher is offered, by the rule of the input that it feeds; without one, what is selected. */
  private offered(): { readonly name: string; readonly items: readonly core.Clip[] } | undefined {
    const { show } = this.site.plan;
    const { id } = this.player.device;
    const entry = core.rowsOf(show, 'links').find(({ targetId, slot }) => targetId === id && slot !== null);
    const rule = entry && onair.ruleOf(show, entry.controllerId, entry.slot ?? 0);
    return onair.offeredList(show, { rule: rule ?? onair.usualRule('', 1), player: this.player.device }, this.selected);
  }

  private after(ms: number, run: () => void): void {
    this.waiting.push(
      this.site.scheduler.after(ms, () => {
        if (isUp(this.player)) run();
      }),
    );
  }

  private face(parameter: string, value: string): void {
    this.player.memory.face.set(parameter, value);
  }

  private note(
    what: 'arrives' | 'starts' | 'moves' | 'stops' | 'holds' | 'ready' | 'ends' | 'list',
    item: string,
  ): void {
    const { scheduler, air } = this.site;
    air.note({ at: scheduler.now(), deviceId: this.player.device.id, what, input: null, item });
  }
}

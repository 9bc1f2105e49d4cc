import { show as shows, wall as core, type contract } from '@deep-patch/core';
import type { Site } from '../site/site.ts';
import { isUp, type Standin } from '../units/standin.ts';

type Runs = NonNullable<contract.WallOnBench['runs']>;

/** What a wall keeps: how it is, what runs in its receivers, what was stored there, and what is sent. */
interface Kept {
  powered: boolean;
  real: shows.RealWall;
  runs: Runs | null;
  stored: Runs | null;
  picture: shows.TestPicture;
  sender: core.Sender;
  /** The player's output as it was saved and started again last. */
  played: shows.Wall['playerOutput'] | undefined;
  found: shows.Wall['found'] | null;
  hides: boolean;
}

/** What receivers of the bench report as their version. */
const version = '3.4';
/** The line of a processor's own screen on which its test picture stands. */
const pictureLine = 'picture';

/** The LED walls of a site. Throws a plain Error that says why something cannot be done. */
export class Walls {
  private readonly kept = new Map<string, Kept>();
  private readonly site: Site;
  private readonly random: () => number;

  constructor(site: Site, random: () => number) {
    this.site = site;
    this.random = random;
  }

  power(wallId: string, on: boolean): void {
    const kept = this.of(this.known(wallId).wall);
    kept.powered = on;
    // without power receivers keep what was stored in them
    kept.runs = on ? kept.stored : null;
    if (!on) kept.found = null;
  }

  /** What is entered goes to sender, receivers and player; whatever they ran with is overwritten. */
  apply(wallId: string): void {
    const { wall } = this.reached(wallId);
    const kept = this.of(wall);
    const { program, parts, numberedFrom } = wall;
    kept.runs = { program, parts, numberedFrom };
    kept.real = { ...kept.real, width: null, height: null, start: null };
  }

  store(wallId: string): void {
    const { wall } = this.reached(wallId);
    const kept = this.of(wall);
    if (!kept.runs) throw new Error(`nothing runs in the receivers of ${wall.name} yet: send the set-up to them first`);
    kept.stored = kept.runs;
  }

  detect(wallId: string): void {
    const { wall } = this.reached(wallId);
    const kept = this.of(wall);
    kept.found = core.inPlace(core.hung(wall.parts, kept.real.order)).map((part) => {
      const cut = kept.real.cuts.find(({ output }) => output === part.output);
      const there = core.panelsIn(wall, part).length;
      return { output: part.output, panels: Math.min(cut?.panels ?? there, there), version, errors: 0 };
    });
    kept.found.sort((a, b) => a.output - b.output);
  }

  send(wallId: string, picture: shows.TestPicture, sender: core.Sender): void {
    const { wall, processor } = this.driven(wallId);
    const kept = this.of(wall);
    [kept.picture, kept.sender] = [picture, sender];
    // on its own screen the processor says what it shows, and by a command it is told
    if (processor.memory.face.has(pictureLine))
      processor.memory.face.set(pictureLine, sender === 'processor' ? picture : startOf(processor));
  }

  really(wallId: string, real: shows.RealWall): void {
    const { wall } = this.known(wallId);
    Object.assign(this.of(wall), { real, hides: false });
  }

  /** One or two things are otherwise than they are entered. */
  hide(wallId: string, wrongs: number): void {
    const { wall, panel } = this.known(wallId);
    const all = core.realWalls(wall, panel).filter((real) => core.wrongCount(real) === wrongs);
    const real = all[Math.floor(this.random() * all.length)];
    if (!real) throw new Error(`nothing can be hidden in ${wall.name}: divide it first`);
    Object.assign(this.of(wall), { real, hides: true });
  }

  states(): contract.WallOnBench[] {
    const { show } = this.site.plan;
    return core.knownWalls(show).map(({ wall }) => {
      const kept = this.of(wall);
      this.look(wall, kept);
      const { powered, runs, picture, sender, found, hides, real } = kept;
      return {
        ...{ wallId: wall.id, powered, real, runs, picture, sender, found, hides },
        isStored: runs !== null && shows.isEqual(runs, kept.stored),
        start: kept.real.start ?? kept.played?.start ?? 'top_left',
        dark: { processor: this.whyDark(wall, kept, 'processor'), player: this.whyDark(wall, kept, 'player') },
      };
    });
  }

  /** What others did meanwhile: a command to the processor, or the player set and started again. */
  private look(wall: shows.Wall, kept: Kept): void {
    const { playerOutput } = wall;
    if (playerOutput.saved && playerOutput.restarted) kept.played = playerOutput;
    const says = this.processorOf(wall)?.memory.face.get(pictureLine);
    const own = shows.testPictures.find((picture) => picture === says);
    if (own) [kept.picture, kept.sender] = [own, 'processor'];
    else if (says !== undefined) kept.sender = 'player';
  }

  private whyDark(
    wall: shows.Wall,
    { powered, runs, played, real }: Kept,
    sender: core.Sender,
  ): contract.WallDark | null {
    const processor = this.processorOf(wall);
    if (!powered) return 'no_power';
    if (!runs) return 'nothing_runs';
    if (!processor || !isUp(processor)) return 'processor_off';
    if (sender === 'processor') return null;
    if (real.reaches === false) return 'interface';
    const { deviceId } = wall.playerOutput;
    // nobody has said what plays: something does
    if (deviceId === null) return null;
    const player = this.site.standins.get(deviceId);
    if (!player || !isUp(player) || !played?.enabled) return 'player_off';
    return core.playerReaches(this.site.plan.show, { ...wall, playerOutput: played }) ? null : 'interface';
  }

  /** A wall whose set-up reaches its receivers. */
  private reached(wallId: string): core.KnownWall {
    const { known, processor } = this.driven(wallId);
    const { wall } = known;
    if (!this.of(wall).powered) throw new Error(`${wall.name} has no power`);
    if (!isUp(processor)) throw new Error(`${processor.device.name} is not switched on`);
    const cards = core.cardsToReceivers(this.site.plan.show, processor.device.id);
    const isCard = processor.type.drivesWall === null;
    if (isCard && wall.sender === 'device')
      throw new Error(`no sending device was found: ${processor.device.name} sends by its network card`);
    if (wall.sender === 'card' && (wall.card === null || !cards.includes(wall.card)))
      throw new Error('no receiver was found: the network card that is chosen leads to none');
    return known;
  }

  private driven(wallId: string) {
    const known = this.known(wallId);
    const { wall } = known;
    const processor = this.processorOf(wall);
    if (!processor) throw new Error(`nobody has said what drives ${wall.name}`);
    return { known, wall, processor };
  }

  private processorOf({ processorId }: shows.Wall): Standin | undefined {
    return processorId === null ? undefined : this.site.standins.get(processorId);
  }

  private known(wallId: string): core.KnownWall {
    const { show } = this.site.plan;
    const wall = show.walls[wallId];
    const known = wall && core.knownWall(show, wall);
    if (!known) throw new Error('there is no such wall on the bench');
    return known;
  }

  private of({ id }: Pick<shows.Wall, 'id'>): Kept {
    const kept: Kept = this.kept.get(id) ?? {
      ...{ powered: false, real: core.asEntered, runs: null, stored: null },
      ...{ picture: 'orientation', sender: 'player', played: undefined, found: null, hides: false },
    };
    this.kept.set(id, kept);
    return kept;
  }
}

const startOf = ({ type }: Standin): string =>
  type.face.find(({ parameter }) => parameter === pictureLine)?.start ?? '';

import type {
  CommitAct,
  DeviceKind,
  DeviceType,
  FaultKind,
  LampMeaning,
  LayerName,
  ConnectionRole,
  LoginMethod,
  RealWall,
  SettingKind,
  TestPicture,
  Wall,
} from '../show/index.ts';
import type { CueRunState, Delivery, PanelState, SteppedState, TeachingState } from './panel-state.ts';
import type { UnitCopy } from './unit-copy.ts';

/** The bench as every screen draws it: what the server tells and the bench answers with. */
export interface BenchState {
  readonly showId: string;
  readonly rev: number;
  /** Grows with every state that is told: an answer that was overtaken on its way is known by it. */
  readonly seq: number;
  /** `skipped`: units are ready as soon as they have power; `real`: after the time that their type says. */
  readonly startUps: 'skipped' | 'real';
  /** Which runs are plugged in: those for setting up, or those of the show. */
  readonly stage: 'setup' | 'show';
  readonly pulling: PullingState | null;
  readonly standins: readonly StandinState[];
  /** The latest lines of the tap. */
  readonly heard: readonly HeardMessage[];
  readonly jacks: readonly JackState[];
  readonly faults: readonly SetFault[];
  readonly rehearsal: RehearsalState | null;
  readonly scan: ScanState | null;
  readonly script: ScriptState | null;
  readonly looking: LookingState | null;
  readonly confirming: ConfirmingState | null;
  readonly partners: PartnersState | null;
  readonly copied: CopiedState | null;
  readonly watch: WatchState;
  readonly panels: readonly PanelState[];
  readonly teaching: TeachingState | null;
  readonly stepped: SteppedState | null;
  readonly cueRun: CueRunState | null;
  /** What became of the message that was sent by itself last. */
  readonly tried: Delivery | null;
  /** What is tried on a bench of its own, or was last. */
  readonly trial: TrialState | null;
  readonly walls: readonly WallOnBench[];
}

export type WallDark = 'no_power' | 'nothing_runs' | 'processor_off' | 'player_off' | 'interface';

/** A wall as it stands there: what runs in its receivers, what was stored in them, and what is sent. */
export interface WallOnBench {
  readonly wallId: string;
  readonly powered: boolean;
  /** How it really is; null in it is as it is planned and entered. */
  readonly real: RealWall;
  /** What was sent to the receivers last; null where nothing runs in them. */
  readonly runs: Pick<Wall, 'program' | 'parts' | 'numberedFrom'> | null;
  /** A restart leaves it as it is. */
  readonly isStored: boolean;
  readonly picture: TestPicture;
  readonly sender: 'processor' | 'player';
  /** The corner at which the player begins, as far as that is in force. */
  readonly start: Wall['playerOutput']['start'];
  /** Why nothing of what each of them sends gets to the receivers; null where it does. */
  readonly dark: Readonly<Record<'processor' | 'player', WallDark | null>>;
  readonly found: Wall['found'] | null;
  /** Something was hidden in it, which nobody has found yet. */
  readonly hides: boolean;
}

/** Takes of an input, or a sequence of cuts, and what became of them. */
export interface TrialState {
  readonly of: 'takes' | 'cuts';
  readonly switcherId: string;
  readonly input: number;
  readonly running: boolean;
  readonly rev: number;
  readonly done: number;
  readonly total: number;
  /** Takes in which nothing moved. */
  readonly failed: number;
  /** Of each take, milliseconds from the cut: order arrives, player starts, first frame moves, bus changes. */
  readonly takes: readonly (readonly [number, number, number, number])[];
  readonly happened: readonly {
    readonly at: number;
    readonly what: string;
    readonly input: number;
    readonly item: string;
  }[];
  /** What made it end early; null where nothing did. */
  readonly fault: string | null;
}

/**
 * Keyed in on one page, with the acts that are still due. `typed`: lost with the power; `stored`: in force after the
 * restart; `in_force`: counts now, and is lost with the power until it is stored.
 */
export interface PendingSetting {
  readonly of: SettingKind;
  readonly acts: readonly CommitAct[];
  readonly stage: 'typed' | 'stored' | 'in_force';
  /** In words, as it stands on the page. */
  readonly what: string;
}

export interface StandinState {
  readonly deviceId: string;
  readonly powered: boolean;
  readonly status: 'up' | 'starting' | 'set-up' | 'clash' | 'storm' | 'closed' | 'no show' | 'no power' | 'fault';
  /** Sockets between which frames run in circles, while they do. */
  readonly circling: readonly string[];
  /** Milliseconds until it is ready, while it starts. */
  readonly readyInMs: number | null;
  readonly face: readonly (readonly [string, string])[];
  readonly menu: readonly (readonly [string, string])[];
  readonly settings: StandinSettings;
  /** What was keyed in and still needs acts, oldest first. */
  readonly pending: readonly PendingSetting[];
  /** What it was given only runs in it: a restart loses it. */
  readonly unstored: boolean;
  readonly application: 'ready' | 'no_show' | 'closed';
  readonly firewall: boolean;
  /** What has to stay running beside it: null where nothing has to. */
  readonly helper: { readonly name: string; readonly runs: boolean } | null;
  /** The addresses that its adapters have now, whoever gave them; none while it has no power. */
  readonly has: readonly { readonly adapter: string; readonly ip: string }[];
  /** Keys of services that the firewall lets through. */
  readonly allowed: readonly string[];
  /** Sets of settings that it keeps in its own list: which one was stored or picked last, and whether that still counts. */
  readonly sets: readonly {
    readonly position: number;
    readonly label: string;
    readonly active: boolean;
    readonly isAsStored: boolean;
  }[];
  /** What a computer's addresses were before it was set to reach something; null where nothing was changed. */
  readonly earlier: string | null;
  /** What a controller's own lamps say of its targets. */
  readonly lamps: readonly LinkLamp[];
  /** Names under which a computer's system lists what is connected, with what somebody called each. */
  readonly endpoints: readonly { readonly name: string; readonly called: string | null }[];
  /** Lists of names that it keeps, as they are now. */
  readonly lists: Readonly<Record<string, readonly string[]>>;
  readonly heard: number;
  readonly lastAt: number | null;
}

/** What stands in a unit; passwords stay on the bench. */
export interface StandinSettings {
  readonly addresses: readonly {
    readonly adapter: string;
    readonly method: 'static' | 'dhcp' | 'self';
    readonly ip: string | null;
    readonly prefix: number;
    readonly gateway: string | null;
  }[];
  readonly services: readonly {
    readonly key: string;
    readonly enabled: boolean;
    readonly receivePort: number;
    readonly sendPort: number | null;
    readonly sendTo: string | null;
    readonly alsoTo: readonly string[];
    readonly role: ConnectionRole | null;
    readonly openFor: readonly DeviceKind[];
    readonly login: LoginMethod | null;
    readonly account: string | null;
    readonly hasPassword: boolean;
  }[];
  readonly firmware: string | null;
  /** The mode that it is in; null is the usual one. */
  readonly variant: string | null;
  /** Nobody keyed anything in at the unit: it has what the plan says. */
  readonly followsPlan: boolean;
}

/** One line of the tap. `at` in milliseconds since 1970; `fromId` and `toId` where these are units of the show. */
export interface HeardMessage {
  readonly at: number;
  readonly from: string;
  readonly to: string;
  readonly fromId?: string;
  readonly toId?: string;
  readonly protocol: string;
  readonly text: string;
  readonly ok: boolean;
  /** What lines whose words move on have in common, such as those of one time code. */
  readonly as?: string;
  /** The number of its frame, by which its bytes are asked for; a line that no frame tells has none. */
  readonly frame?: number;
}

/** One way to a unit's settings on the bench: whether it is open now, from which computer, or what it needs. */
export interface WayNow {
  readonly way: DeviceType['ways'][number]['way'];
  readonly works: boolean;
  readonly from: string | null;
  readonly needs: string;
}

/** The bytes of one frame, and what each of them stands for: fields that follow each other without a gap. */
export interface FrameAnatomy {
  /** Two digits a byte. */
  readonly hex: string;
  readonly layers: readonly {
    readonly name: string;
    readonly parts: readonly {
      readonly name: string;
      readonly value: string;
      readonly at: number;
      readonly length: number;
    }[];
  }[];
}

/** One OSC address that somebody heard, with the range of each of its values (C62). */
export interface HeardAddress {
  readonly address: string;
  readonly count: number;
  readonly values: readonly {
    readonly last: string;
    readonly least: number | null;
    readonly greatest: number | null;
  }[];
}

/** What is new on the tap, ten times a second at most. `lamps`: units that sent or took in something meanwhile. */
export interface TapNews {
  readonly showId: string;
  readonly lines: readonly HeardMessage[];
  readonly perSecond: number;
  readonly addresses: number;
  readonly lamps: { readonly in: readonly string[]; readonly out: readonly string[] };
}

export interface JackState {
  readonly deviceId: string;
  readonly serviceKey: string;
  readonly host: '127.0.0.1';
  readonly port: number;
  readonly replyTo: number | null;
  /** Datagrams that came too fast and were not taken in. */
  readonly dropped: number;
}

/** A fault that is set. While a rehearsal hides it, it is not in the list. */
export interface SetFault {
  readonly id: string;
  readonly kind: FaultKind;
  readonly deviceId: string;
}

/** `linkId`: the link on which the hidden fault shows. The answer is told only once it is over. */
export interface RehearsalState {
  readonly startedAt: number;
  readonly linkId: string;
  readonly result: {
    readonly right: boolean;
    readonly tookMs: number;
    readonly kind: FaultKind;
    readonly deviceId: string;
    readonly guessedKind: FaultKind | null;
    readonly guessedDeviceId: string | null;
  } | null;
}

/** A scan from the technician's computer. `outside`: subnets of the plan that no adapter of it reaches, with what would. */
export interface ScanState {
  readonly running: boolean;
  readonly done: number;
  readonly total: number;
  readonly found: number;
  readonly stopped: boolean;
  readonly from: string;
  readonly outside: readonly { readonly network: string; readonly units: number; readonly setting: string }[];
}

/** A controller's own lamp for one target, and what it really measures. */
export interface LinkLamp {
  readonly linkId: string;
  readonly means: LampMeaning;
  readonly lit: boolean;
  /** Of a lamp with three states: nobody there, there without doing anything, or doing what it is told. */
  readonly shows?: 'away' | 'there' | 'ready';
}

/** The causes why a unit is not found, in the order in which they are looked at. */
export const lookingKeys = [
  'power',
  'cable',
  'own_cable',
  'segment',
  'unit_address',
  'as_planned',
  'own_subnet',
  'mask_back',
  'one_owner',
  'version',
  'firewall',
] as const;
export type LookingKey = (typeof lookingKeys)[number];
export interface LookingCheck {
  readonly key: LookingKey;
  readonly state: 'pass' | 'fail' | 'waits';
  readonly facts: Readonly<Record<string, string | number>>;
}
export interface LookingState {
  readonly deviceId: string;
  readonly from: string;
  readonly checks: readonly LookingCheck[];
}

/** What a confirmation of a unit asks for, in this order. `waits` is what nobody could ask from where the computer is. */
export const confirmKeys = ['answers', 'silent_before', 'version', 'wrong_login', 'right_login'] as const;
export interface ConfirmCheck {
  readonly key: (typeof confirmKeys)[number];
  readonly state: 'pass' | 'fail' | 'waits';
  readonly facts: Readonly<Record<string, string | number>>;
}
export interface ConfirmingState {
  readonly deviceId: string;
  readonly ip: string;
  readonly at: number;
  readonly checks: readonly ConfirmCheck[];
}

/** What was found in two units when they were held against each other last, and how far one is in overwriting the other. */
export interface PartnersState {
  readonly fromId: string;
  readonly toId: string;
  readonly at: number;
  readonly items: readonly { readonly what: string; readonly from: string; readonly to: string }[];
  /** Items that are over there, while they go; null while nothing does. */
  readonly done: number | null;
  /** The receiver runs what it was given, and loses it with its power until it is stored. */
  readonly unstored: boolean;
}
/** The copy that was made last. */
export interface CopiedState {
  readonly deviceId: string;
  readonly copy: UnitCopy;
}

/** What pulling one run did: ids of links that worked before and stopped meanwhile. */
export interface PulledRun {
  readonly cableId: string;
  readonly stops: readonly string[];
}
/** Every run is pulled once, with the links sounded each time. `rev`: the revision at which it began. */
export interface PullingState {
  readonly running: boolean;
  readonly stopped: boolean;
  readonly rev: number;
  readonly done: number;
  readonly total: number;
  /** How many links are sounded each time. */
  readonly links: number;
  readonly results: readonly PulledRun[];
}

/** Links under watch: null is not watched. `from` and `to`: the layer at which it stopped, null for none. */
export interface WatchState {
  readonly everySeconds: number | null;
  readonly changes: readonly LinkChange[];
}
export interface LinkChange {
  readonly at: number;
  readonly linkId: string;
  readonly from: LayerName | null;
  readonly to: LayerName | null;
}

/** A scripted rehearsal under way; what is hidden is not told before it is found or over. */
export interface ScriptState {
  readonly title: string;
  readonly startedAt: number;
  readonly over: boolean;
  readonly wrong: number;
  readonly steps: readonly ScriptStepState[];
}
export interface ScriptStepState {
  readonly hidden: boolean;
  readonly state: 'waiting' | 'set' | 'found' | 'cleared' | 'refused';
  readonly tookMs: number | null;
  readonly reason: string | null;
  readonly kind: FaultKind | null;
  readonly deviceId: string | null;
}

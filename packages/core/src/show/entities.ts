import type {
  Change,
  commitActs,
  connectionRoles,
  Content,
  deviceKinds,
  Edit,
  Given,
  lampMeanings,
  loginMethods,
  Row,
  settingKinds,
  testPictures,
  TableName,
} from '../schemas/index.ts';

export type { Change, Content, Edit, Row, TableName };

type FlatTable = Exclude<TableName, 'types'>;
/** What may be left out of a row, with the value that it has then: one that is forgotten does not compile. */
type Usual<T extends TableName> = {
  readonly [
    Key in keyof Content<T> as Key extends keyof Given<T> ? (object extends Pick<Given<T>, Key> ? Key : never) : never
  ]: Content<T>[Key];
};

const nothingEntered = { width: null, height: null, scan: null, colours: null, dataFrom: null, chip: '' } as const;

const noOutput = {
  ...{ deviceId: null, kind: null, adapter: null, start: 'top_left' as const },
  ...{ enabled: false, saved: false, restarted: false },
} as const;

const usual: { readonly [T in FlatTable]: Usual<T> } = {
  libraries: {},
  licences: { note: '' },
  networks: {
    carries: 'mixed',
    needsOutside: false,
    owner: 'ours',
    contact: '',
    rules: '',
    granted: [],
    growth: 20,
  },
  blocks: { use: 'place' },
  devices: {
    serial: '',
    hostName: '',
    swaps: 0,
    variant: null,
    runsOn: null,
    adapter: null,
    system: null,
    systemVersion: null,
    features: [],
    sources: null,
    packed: [],
    feed: null,
    circuit: '',
    savedOn: null,
    done: [],
    ipv6: 'as_delivered',
    socketVlans: [],
    inputs: [],
    sharing: '',
    peers: '',
    names: [],
    accounts: [],
    rate: null,
    takeDelay: null,
    leads: false,
    usedFor: '',
    outputs: [],
  },
  interfaces: {},
  addresses: { method: 'static' },
  cables: { delayMs: null, grade: null, stage: 'both' },
  services: { alsoTo: [], login: null, role: null, openFor: [] },
  links: { label: '', slotGroup: null, typed: '', after: null, mustHold: false, role: 'opens' },
  keyedIn: {},
  progress: {
    joined: false,
    signedIn: false,
    shows: null,
    due: [],
    held: null,
    meantime: null,
    confirmed: [],
    taken: null,
    left: [],
    log: [],
    holds: null,
    accepted: null,
    adapters: [],
  },
  documents: {},
  contacts: { knows: '', reach: '' },
  controls: { address: '', least: 0, greatest: 1, region: null },
  assignments: {
    layer: null,
    part: 'whole',
    does: 'command',
    targetId: null,
    serviceKey: null,
    command: null,
    args: [],
    drives: null,
    transfer: null,
    among: [],
    number: null,
    machine: null,
    feedback: null,
    label: '',
  },
  banks: { offset: null, odd: 'none' },
  cues: { enabled: true, starts: { by: 'hand' }, messages: [], note: '', proved: null },
  inputRules: { goes: 'with_cut', leaves: 'hold', offers: 'selected', list: '', channel: '', measured: null },
  clips: { seconds: null, form: null, title: '', actions: [] },
  timeHops: { says: '', hears: '', input: '' },
  walls: {
    processorId: null,
    sender: 'device',
    card: null,
    managed: null,
    distanceM: null,
    surfaces: [],
    parts: [],
    numberedFrom: 'front',
    strings: [],
    bits: 8,
    rate: '50',
    loop: false,
    loopInFile: false,
    volts: 230,
    phases: 3,
    program: nothingEntered,
    profile: nothingEntered,
    player: nothingEntered,
    playerOutput: noOutput,
    captured: null,
    firstChannel: null,
    found: [],
    stored: false,
  },
};

/** Every table of a show, in an order in which each refers only to those before it. */
export const tableNames = [
  'libraries',
  'types',
  'licences',
  'networks',
  'blocks',
  'devices',
  'interfaces',
  'addresses',
  'cables',
  'services',
  'links',
  'keyedIn',
  'progress',
  'documents',
  'contacts',
  'controls',
  'assignments',
  'banks',
  'cues',
  'inputRules',
  'clips',
  'timeHops',
  'walls',
] as const satisfies readonly TableName[];

/**
 * The content of a row with everything that may be left out filled in. It does not judge: a row with a fault keeps it,
 * and whoever saves it is told.
 */
export const contentWith = <T extends FlatTable>(table: T, given: Given<T>): Content<T> =>
  ({ ...usual[table], ...given }) as Content<T>;

export type LoginMethod = (typeof loginMethods)[number];
export type ConnectionRole = (typeof connectionRoles)[number];
export type DeviceKind = (typeof deviceKinds)[number];
export type SettingKind = (typeof settingKinds)[number];
export type LampMeaning = (typeof lampMeanings)[number];
export type CommitAct = (typeof commitActs)[number];
export type Library = Row<'libraries'>;
export type Licence = Row<'licences'>;
export type DeviceType = Row<'types'>;
export type ServiceType = DeviceType['services'][number];
export type Command = ServiceType['commands'][number];
export type Network = Row<'networks'>;
export type Block = Row<'blocks'>;
export type Device = Row<'devices'>;
export type Progress = Row<'progress'>;
export type Interface = Row<'interfaces'>;
export type Address = Row<'addresses'>;
export type Cable = Row<'cables'>;
export type Service = Row<'services'>;
export type Link = Row<'links'>;
export type Document = Row<'documents'>;
export type Contact = Row<'contacts'>;
export type KeyedIn = Row<'keyedIn'>;
export type Control = Row<'controls'>;
export type TypeControl = DeviceType['controls'][number];
export type Feedback = NonNullable<ServiceType['feedback']>[number];
export type Assignment = Row<'assignments'>;
export type Transfer = NonNullable<Assignment['transfer']>;
export type Bank = Row<'banks'>;
export type Cue = Row<'cues'>;
export type CueMessage = Cue['messages'][number];
export type CueStart = Cue['starts'];
export type InputRule = Row<'inputRules'>;
export type Clip = Row<'clips'>;
export type Wall = Row<'walls'>;
export type { RealWall } from '../schemas/index.ts';
export type TestPicture = (typeof testPictures)[number];
export type TimeHop = Row<'timeHops'>;
export type TimeFormat = TimeHop['format'];
export type OutputForm = Device['outputs'][number]['form'];
export type Socket = DeviceType['sockets'][number];
export type RateKey = NonNullable<Device['rate']>;

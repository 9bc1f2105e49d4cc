import { command, httpService, lanSocket, makeType, pictureIn, type TypeContent } from './make-type.ts';

const picture = command({
  key: 'picture',
  label: 'Show a test picture',
  method: 'PUT',
  address: '/picture',
  args: [{ name: 'picture', type: 's', example: 'grid' }],
  sets: [{ parameter: 'picture', value: '{picture}' }],
  reply: { address: '/picture', args: ['{picture}'] },
});

interface Outputs {
  readonly sockets: number;
  /** Each socket is a trunk to a distribution unit with so many outputs. */
  readonly unitOutputs: number | null;
}

const processor = (model: string, name: string, factoryIp: string, { sockets, unitOutputs }: Outputs) =>
  makeType({
    model,
    name,
    kind: 'led-processor',
    factoryIp,
    sockets: [
      { ...lanSocket, label: 'management', role: 'management' },
      pictureIn('in-1', 'picture in', 'hdmi'),
      ...Array.from({ length: sockets }, (_, at) => ({
        ...{ key: `out-${at + 1}`, label: `${unitOutputs === null ? 'output' : 'trunk'} ${at + 1}`, adapter: null },
        ...(unitOutputs === null ? {} : { connector: 'sfp' as const }),
        role: 'led' as const,
      })),
    ],
    services: [httpService({ port: 80, logins: ['none'] }, [picture])],
    face: [{ parameter: 'picture', start: 'input 1' }],
    ways: [{ way: 'menu' }, { way: 'program', note: 'its remote application' }],
    commits: [
      { of: 'address', acts: [{ act: 'confirm_page' }, { act: 'restart_device', seconds: 40 }] },
      { of: 'output', acts: [{ act: 'store' }] },
    ],
    startsInSeconds: 40,
    // of a gigabit link at 8 bits and 60 pictures a second, what is left after everything around the pixels
    drivesWall: { outputs: sockets * (unitOutputs ?? 1), pixels: 530_000, unitOutputs },
    matches: [{ model: 'wall-program', rule: 'equal' }],
    erases: ['the wall layout'],
    papers: ['tile data sheet'],
  });

export const largeProcessor = processor('led-processor', 'LED processor', '10.61.40.50', {
  sockets: 10,
  unitOutputs: null,
});
export const smallProcessor = processor('small-led-processor', 'Small LED processor', '10.88.0.52', {
  sockets: 2,
  unitOutputs: null,
});
/** For large walls: distribution units stand beside them. */
export const trunkProcessor = processor('trunk-led-processor', 'LED processor with trunks', '10.88.0.53', {
  ...{ sockets: 4, unitOutputs: 10 },
});

export const distributionUnit = makeType({
  model: 'led-distribution',
  name: 'LED distribution unit',
  kind: 'led-receiver',
  factory: { mode: 'none' },
  adapters: [],
  sockets: [
    { key: 'in-1', label: 'trunk in', adapter: null, role: 'led', connector: 'sfp' },
    ...Array.from({ length: 10 }, (_, at) => ({
      key: `out-${at + 1}`,
      label: `output ${at + 1}`,
      adapter: null,
      role: 'led' as const,
    })),
  ],
  ways: [],
});

export const receivingCard = makeType({
  model: 'led-receiving-card',
  name: 'LED receiving card',
  kind: 'led-receiver',
  factory: { mode: 'none' },
  adapters: [],
  sockets: [
    { key: 'data-1', label: 'data 1', adapter: null, role: 'led' },
    { key: 'data-2', label: 'data 2', adapter: null, role: 'led' },
  ],
  ways: [{ way: 'program', note: 'the wall program' }],
  commits: [{ of: 'output', acts: [{ act: 'store' }] }],
  chain: { most: 24, delayMs: 0.02 },
  power: [{ feed: 'supply', note: 'of the tile' }],
});

/** A panel of a wall: half a metre square, with nothing to set on it. */
const tile = (model: string, name: string, panel: Partial<NonNullable<TypeContent['panel']>>) =>
  makeType({
    ...{ model, name, kind: 'led-panel', factory: { mode: 'none' }, adapters: [], sockets: [], ways: [] },
    panel: {
      ...{ width: 80, height: 80, widthMm: 500, heightMm: 500, kg: 10, watts: 200, startAmps: null },
      ...{ across: 2, down: 2, scan: 8, chip: '', colours: 'RGB', dataFrom: 'left', ...panel },
    },
    power: [{ feed: 'mains' }],
  });

export const quayTile = tile('quay-tile', 'Indoor tile 3.1', {
  ...{ width: 160, height: 160, kg: 8.5, watts: 130, startAmps: 2.5, scan: 16, chip: 'C-2153', colours: 'GRB' },
});

/** The same size for the open air: fewer pixels, more light. */
export const pierTile = tile('pier-tile', 'Outdoor tile 6.2', {
  ...{ kg: 11, watts: 240, startAmps: 4, chip: 'C-1024', dataFrom: 'right' },
});

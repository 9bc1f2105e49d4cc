import { command, httpService, lanSocket, makeType, pictureIn } from './make-type.ts';

const picture = command({
  key: 'picture',
  label: 'Show a test picture',
  method: 'PUT',
  address: '/picture',
  args: [{ name: 'picture', type: 's', example: 'grid' }],
  sets: [{ parameter: 'picture', value: '{picture}' }],
  reply: { address: '/picture', args: ['{picture}'] },
});

const processor = (model: string, name: string, factoryIp: string, outputs: number) =>
  makeType({
    model,
    name,
    kind: 'led-processor',
    factoryIp,
    sockets: [
      { ...lanSocket, label: 'management', role: 'management' },
      pictureIn('in-1', 'picture in', 'hdmi'),
      ...Array.from({ length: outputs }, (_, at) => ({
        key: `out-${at + 1}`,
        label: `output ${at + 1}`,
        adapter: null,
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
    matches: [{ model: 'wall-program', rule: 'equal' }],
    erases: ['the wall layout'],
    papers: ['tile data sheet'],
  });

export const largeProcessor = processor('led-processor', 'LED processor', '10.61.40.50', 10);
export const smallProcessor = processor('small-led-processor', 'Small LED processor', '10.88.0.52', 2);

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

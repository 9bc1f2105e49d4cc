import { timecode } from '@deep-patch/core';
import { useBenchPart } from '../live/bench-store.ts';
import { faceOf } from '../live/face-of.ts';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

interface Props {
  readonly chain: timecode.Chain;
  readonly chosen: string | undefined;
  readonly onHop: (id: string) => void;
  readonly onStation: (id: string) => void;
}

const box = { width: 168, height: 82 };
const step = { x: 196, y: 46 };

interface Placed {
  readonly station: timecode.Station;
  readonly x: number;
  readonly y: number;
}

/** Each unit a step lower than whoever it hears; a branch goes on below the one before it. */
function placed({ stations }: timecode.Chain): Placed[] {
  return stations.map((station, at) => {
    const before = stations[at - 1];
    // a step down the stairs, or a whole row where another branch begins
    const rows = stations
      .slice(0, at + 1)
      .filter((each, n) => n > 0 && each.depth <= (stations[n - 1]?.depth ?? 0)).length;
    return {
      station,
      x: station.depth * step.x,
      y: station.depth * step.y + rows * (box.height + 26) * (before ? 1 : 0),
    };
  });
}

/** One chain from its source to every receiver, with what each shows on the bench. */
export function ChainStairs({ chain, chosen, onHop, onStation }: Props) {
  const places = placed(chain);
  const width = Math.max(...places.map(({ x }) => x)) + box.width + 8;
  const height = Math.max(...places.map(({ y }) => y)) + box.height + 30;
  const byId = new Map(places.map((place) => [place.station.device.id, place]));
  return (
    <div className="overflow-x-auto" role="group" aria-label={`From ${chain.source.name}`}>
      <div className="relative" style={{ width, height }}>
        <svg width={width} height={height} className="absolute inset-0" aria-hidden>
          {places.flatMap(({ station: { heard }, x, y }) => {
            const from = heard && byId.get(heard.from.id);
            if (!heard || !from) return [];
            const [x1, y1, y2] = [from.x + box.width, from.y + box.height / 2, y + 22];
            const isBroken = heard.faults.length > 0;
            return (
              <path
                key={heard.row.id}
                d={`M${x1} ${y1}h${(x - x1) / 2}V${y2}H${x}`}
                fill="none"
                strokeWidth={2.5}
                strokeDasharray={isBroken ? '5 4' : undefined}
                className={isBroken ? 'stroke-error' : 'stroke-success'}
              />
            );
          })}
        </svg>
        {places.map((place) => (
          <StationBox key={place.station.device.id} {...{ place, chosen, onHop, onStation }} source={chain.source.id} />
        ))}
      </div>
      <SecondWays {...{ chain, chosen, onHop }} />
    </div>
  );
}

/** Hops to somebody who hears another one: they are not on the stairs, and may be wanted as a reserve. */
function SecondWays({ chain, chosen, onHop }: Pick<Props, 'chain' | 'chosen' | 'onHop'>) {
  const onStairs = new Set(chain.stations.map(({ heard }) => heard?.row.id));
  const others = chain.hops.filter(({ row }) => !onStairs.has(row.id));
  if (others.length === 0) return null;
  return (
    <ul className="flex flex-wrap gap-2" aria-label="Second ways">
      {others.map(({ row, from, to, faults }) => (
        <li key={row.id}>
          <button type="button" className="act" aria-pressed={chosen === row.id} onClick={() => onHop(row.id)}>
            {faults.length > 0 && <Mark state="fail" size={12} />} also {from.name} to {to.name},{' '}
            {formatNames[row.format]}
          </button>
        </li>
      ))}
    </ul>
  );
}

const roles = { source: 'makes', passes_on: 'hears, and passes on', receives: 'waits for' } as const;

function StationBox({
  place: { station, x, y },
  chosen,
  source,
  onHop,
  onStation,
}: Pick<Props, 'chosen' | 'onHop' | 'onStation'> & { readonly place: Placed; readonly source: string }) {
  const show = useShow();
  const { device, role, heard, rate } = station;
  const digits = useBenchPart((known) => {
    const isUp = known?.standins.find(({ deviceId }) => deviceId === device.id)?.status === 'up';
    return isUp ? faceOf(known?.standins, device.id, 'time code') : undefined;
  });
  const ahead = useBenchPart((known) => differenceOf(faceOf(known?.standins, source, 'time code'), digits, rate));
  const faults = heard?.faults.length ?? 0;
  const formats = heard ? formatNames[heard.row.format] : formatsOf(show, device.id);
  const own = device.rate ?? rate;
  const isChosen = chosen === device.id || chosen === heard?.row.id;
  const name = heard && (heard.row.hears || heard.row.says);
  return (
    <div className="absolute" style={{ left: x, top: y, width: box.width }}>
      <button
        type="button"
        className={`grid w-full rounded-box border-[1.5px] bg-base-200 px-2.5 py-1.5 text-left hover:bg-base-300 ${faults > 0 ? 'border-error' : isChosen ? 'border-primary' : digits && digits !== 'none' ? 'border-success' : 'border-line'} ${isChosen ? 'ring-2 ring-primary/40' : ''}`}
        style={{ minHeight: box.height }}
        aria-pressed={isChosen}
        onClick={() => (heard ? onHop(heard.row.id) : onStation(device.id))}
      >
        <span className="truncate font-semibold">{device.name}</span>
        <span className="truncate text-xs text-mute">
          {roles[role]} {formats}
          {own ? `, ${own.replace('df', ' drop')}` : ''}
        </span>
        <span className={`font-mono text-[15px] font-bold ${faults > 0 ? 'text-error' : 'text-success'}`}>
          {faults > 0 ? (
            <>
              <Mark state="fail" size={13} /> stands
            </>
          ) : digits === undefined ? (
            <span className="text-xs font-normal text-mute">not on the bench now</span>
          ) : digits === 'none' ? (
            <span className="text-mute">nothing comes</span>
          ) : (
            digits
          )}
        </span>
        {faults === 0 && heard && ahead !== undefined && (
          <span className="text-xs text-mute">
            {ahead === 0
              ? 'with the source'
              : `${Math.abs(ahead)} ${Math.abs(ahead) === 1 ? 'frame' : 'frames'} ${ahead < 0 ? 'behind' : 'ahead of'} it`}
          </span>
        )}
      </button>
      {name && <p className="truncate pt-0.5 text-center text-xs text-mute">“{name}”</p>}
    </div>
  );
}

const formatNames = { linear: 'linear', midi: 'MIDI, by cable', network_midi: 'network MIDI' } as const;

function formatsOf(show: ReturnType<typeof useShow>, id: string): string {
  const given = Object.values(show.timeHops).flatMap(({ fromId, format }) =>
    fromId === id ? [formatNames[format]] : [],
  );
  return [...new Set(given)].join(' and ');
}

/** Frames between what two units show at one moment; undefined where one of them shows nothing. */
function differenceOf(a: string | undefined, b: string | undefined, key: timecode.Station['rate']): number | undefined {
  const rate = timecode.rates[key ?? '25'];
  const [left, right] = [a, b].map((text) =>
    text === undefined || text === 'none' ? undefined : timecode.readTime(text, rate),
  );
  if (!left || !right || 'fault' in left || 'fault' in right) return undefined;
  return timecode.framesOf(right.time, rate) - timecode.framesOf(left.time, rate);
}

import type { contract, surfaces } from '@deep-patch/core';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { Mark } from '../parts/mark.tsx';

type Part = contract.ControlState['part'];

interface Props {
  readonly control: surfaces.SurfaceControl;
  readonly words: string;
  readonly states: readonly contract.ControlState[];
  /** It is moved, not edited. */
  readonly playing: boolean;
  readonly selected: boolean;
  readonly trouble: boolean;
  readonly big?: boolean;
  readonly onMove: (part: Part, value: number) => void;
  readonly onSelect: () => void;
}

const shareOf = ({ least, greatest }: surfaces.SurfaceControl, value: number): number =>
  Math.min(1, Math.max(0, (value - least) / (greatest - least)));

/** One control: what it looks like, what it does, where it stands, and what became of what it sent. */
export function ControlShape(props: Props) {
  const { control, words, states, selected, trouble, playing, big } = props;
  const isKey = control.kind === 'key' || control.kind === 'region';
  // on a page for hands everything grows with the screen
  const grows = control.kind !== 'switch' && control.kind !== 'encoder';
  const rows = !big ? 'content-start' : grows ? 'grid-rows-[minmax(0,1fr)] auto-rows-auto' : 'content-center';
  const frame = `relative grid min-w-0 grid-cols-[minmax(0,1fr)] ${rows} justify-items-center gap-1 rounded-sm p-1 text-center ${selected ? 'outline-2 outline-primary' : ''}`;
  const last = states.find(({ delivery }) => delivery)?.delivery;
  const says = playing ? said(states.find(({ lamp }) => lamp)?.lamp) : '';
  return (
    <div className={frame} data-control={control.key}>
      <Shape {...props} />
      {!(big && isKey) && (
        <span
          className={`line-clamp-2 w-full ${big ? 'text-base' : 'text-xs'} break-words ${words === '' ? 'text-faint' : trouble ? 'text-warning' : ''}`}
          title={words}
        >
          {words === '' ? 'not yet' : words}
        </span>
      )}
      {says && !(isKey && (big || control.screen)) && (
        <span className={`line-clamp-1 w-full break-words text-mute ${big ? 'text-sm' : 'text-xs'}`} title={says}>
          {says}
        </span>
      )}
      {playing && last && (
        <span className="absolute top-0 right-0">
          <Mark state={last.outcome === 'done' ? 'pass' : last.outcome === 'refused' ? 'risky' : 'fail'} size={11} />
        </span>
      )}
    </div>
  );
}

function Shape(props: Props) {
  switch (props.control.kind) {
    case 'key':
    case 'region':
      return <Key {...props} />;
    case 'switch':
      return <Switch {...props} />;
    case 'pad':
      return <Pad {...props} />;
    case 'encoder':
      return <Encoder {...props} />;
    case 'fader':
      return <Fader {...props} />;
  }
}

type Colour = NonNullable<NonNullable<contract.ControlState['lamp']>['colour']>;
const lights: Readonly<Record<Colour, { readonly key: string; readonly dot: string }>> = {
  white: { key: 'border-base-content bg-base-content/15', dot: 'text-base-content' },
  red: { key: 'border-error bg-error/25', dot: 'text-error' },
  amber: { key: 'border-warning bg-warning/25', dot: 'text-warning' },
  green: { key: 'border-success bg-success/25', dot: 'text-success' },
  blue: { key: 'border-info bg-info/25', dot: 'text-info' },
};

/** What a target says of itself, as it is read: of a switch only that it is on. */
const said = (lamp: contract.ControlState['lamp'] | undefined): string =>
  ({ true: 'on', false: '' })[lamp?.says ?? ''] ?? lamp?.says ?? '';

const stateOf = ({ states }: Props, part: Part = 'whole') => states.find((state) => state.part === part);

function Key(props: Props) {
  const { control, words, playing, big, onMove, onSelect } = props;
  const lamp = stateOf(props)?.lamp;
  const inside = playing && (control.screen || big) ? said(lamp) : '';
  const size = big ? 'h-full max-h-56 min-h-20 w-full text-base lg:text-xl' : 'h-9 w-full truncate text-xs';
  const light = lamp?.lit ? lights[lamp.colour ?? 'green'].key : 'border-line bg-base-300';
  return (
    <button
      type="button"
      aria-label={`${control.label}${words ? `: ${words}` : ''}${inside ? ` ${inside}` : ''}${lamp ? (lamp.lit ? ', lit' : ', dark') : ''}`}
      className={`rounded-field border px-1 ${size} ${light} ${words === '' ? 'border-dashed text-faint' : ''}`}
      onPointerDown={() => playing && onMove('whole', control.greatest)}
      onPointerUp={() => playing && onMove('whole', control.least)}
      onKeyDown={(event) => {
        if (!playing || event.repeat || (event.key !== 'Enter' && event.key !== ' ')) return;
        event.preventDefault();
        onMove('whole', control.greatest);
        onMove('whole', control.least);
      }}
      onClick={onSelect}
    >
      {control.screen || big ? words || control.label : control.label}
      {lamp?.lit && <span className={`ml-1 ${lights[lamp.colour ?? 'green'].dot}`}>●</span>}
      {inside !== '' && <span className={`block truncate ${big ? 'text-sm' : 'text-[11px] leading-3'}`}>{inside}</span>}
    </button>
  );
}

function Switch(props: Props) {
  const { control, playing, big, onMove, onSelect } = props;
  const isOn = shareOf(control, stateOf(props)?.value ?? control.least) >= 0.5;
  return (
    <button
      type="button"
      role="switch"
      aria-checked={isOn}
      aria-label={control.label}
      className={`flex w-full items-center justify-center ${big ? 'min-h-16' : 'h-9'}`}
      onClick={() => (playing ? onMove('whole', isOn ? control.least : control.greatest) : onSelect())}
    >
      <span
        className={`flex items-center rounded-full border border-line p-0.5 ${big ? 'h-12 w-24' : 'h-5 w-10'} ${isOn ? 'justify-end bg-success/30' : 'bg-base-300'}`}
      >
        <span className={`rounded-full bg-base-content ${big ? 'size-10' : 'size-4'}`} />
      </span>
    </button>
  );
}

/** Values that a control can be moved to with keys: by a hundredth of its way, with Page Up and Down by a tenth. */
function byKey(event: KeyboardEvent, control: surfaces.SurfaceControl, value: number): number | undefined {
  const way = control.greatest - control.least;
  const step = { ArrowUp: 0.01, ArrowRight: 0.01, ArrowDown: -0.01, ArrowLeft: -0.01, PageUp: 0.1, PageDown: -0.1 }[
    event.key
  ];
  if (event.key === 'Home') return control.least;
  if (event.key === 'End') return control.greatest;
  return step === undefined ? undefined : Math.min(control.greatest, Math.max(control.least, value + step * way));
}

function useDrag(playing: boolean, onPoint: (across: number, up: number) => void) {
  const area = useRef<HTMLDivElement>(null);
  const point = (event: PointerEvent) => {
    const box = area.current?.getBoundingClientRect();
    if (!box) return;
    const share = (at: number, from: number, size: number) => Math.min(1, Math.max(0, (at - from) / size));
    onPoint(share(event.clientX, box.left, box.width), 1 - share(event.clientY, box.top, box.height));
  };
  return {
    ref: area,
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      if (!playing) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      point(event);
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      if (playing && event.currentTarget.hasPointerCapture(event.pointerId)) point(event);
    },
  };
}

function Fader(props: Props) {
  const { control, words, playing, big, onMove, onSelect, trouble } = props;
  const value = stateOf(props)?.value ?? control.least;
  const drag = useDrag(playing, (_, up) => onMove('whole', control.least + up * (control.greatest - control.least)));
  const share = shareOf(control, value);
  const isWaiting = stateOf(props)?.waits;
  return (
    <div
      {...drag}
      role="slider"
      tabIndex={0}
      aria-label={`${control.label}${words ? `: ${words}` : ''}`}
      aria-valuemin={control.least}
      aria-valuemax={control.greatest}
      aria-valuenow={Math.round(value * 100) / 100}
      className={`relative w-11 cursor-pointer touch-none ${big ? 'h-full max-h-96 min-h-44' : 'h-full min-h-24'}`}
      onClick={onSelect}
      onKeyDown={(event) => {
        const next = playing ? byKey(event, control, value) : undefined;
        if (next === undefined) return;
        event.preventDefault();
        onMove('whole', next);
      }}
    >
      <span className="absolute top-0 left-1/2 h-full w-1.5 -translate-x-1/2 rounded-full border border-line bg-base-100" />
      <span
        className={`absolute bottom-0 left-1/2 w-1.5 -translate-x-1/2 rounded-full ${trouble ? 'bg-warning' : 'bg-accent'}`}
        style={{ height: `${share * 100}%` }}
      />
      <span
        className={`absolute left-1/2 h-3.5 w-8 -translate-x-1/2 translate-y-1/2 rounded-sm border bg-base-300 ${isWaiting ? 'border-dashed border-warning' : trouble ? 'border-warning' : 'border-line'}`}
        style={{ bottom: `${share * 100}%` }}
      >
        <span className="absolute top-1/2 left-1.5 h-px w-4.5 bg-base-content" />
      </span>
    </div>
  );
}

function Encoder(props: Props) {
  const { control, words, playing, big, onMove, onSelect } = props;
  const value = stateOf(props)?.value ?? control.least;
  const parts = props.states.length > 0 && props.states.every(({ part }) => part === 'up' || part === 'down');
  const turn = (by: number) => {
    if (parts) onMove(by > 0 ? 'up' : 'down', control.greatest);
    else
      onMove(
        'whole',
        Math.min(control.greatest, Math.max(control.least, value + by * (control.greatest - control.least))),
      );
  };
  const angle = -135 + shareOf(control, value) * 270;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`${control.label}${words ? `: ${words}` : ''}`}
      aria-valuemin={control.least}
      aria-valuemax={control.greatest}
      aria-valuenow={Math.round(value * 100) / 100}
      className={`grid cursor-pointer place-items-center self-center rounded-full border border-line bg-base-300 ${big ? 'size-20' : 'size-9'}`}
      onClick={onSelect}
      onWheel={(event) => playing && turn(event.deltaY < 0 ? 0.02 : -0.02)}
      onKeyDown={(event) => {
        if (!playing || !event.key.startsWith('Arrow')) return;
        event.preventDefault();
        turn(event.key === 'ArrowUp' || event.key === 'ArrowRight' ? 0.02 : -0.02);
      }}
    >
      <span className="h-full w-0.5" style={{ transform: `rotate(${angle}deg)` }}>
        <span className={`mt-1 block w-0.5 bg-base-content ${big ? 'h-7' : 'h-3'}`} />
      </span>
    </div>
  );
}

function Pad(props: Props) {
  const { control, words, playing, big, onMove, onSelect } = props;
  const middle = (control.least + control.greatest) / 2;
  const [x, y] = [stateOf(props, 'x')?.value ?? middle, stateOf(props, 'y')?.value ?? middle];
  const at = (share: number) => control.least + share * (control.greatest - control.least);
  const drag = useDrag(playing, (across, up) => {
    onMove('x', at(across));
    onMove('y', at(up));
  });
  return (
    <div
      {...drag}
      role="group"
      tabIndex={0}
      aria-label={`${control.label}, two axes${words ? `: ${words}` : ''}; arrows move it`}
      className={`relative aspect-square cursor-pointer touch-none rounded-field border border-line bg-base-300 ${big ? 'h-full max-h-80 min-h-36 max-w-full' : 'w-full max-w-28'}`}
      onClick={onSelect}
      onKeyDown={(event) => {
        const isAcross = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
        const next = playing && event.key.startsWith('Arrow') ? byKey(event, control, isAcross ? x : y) : undefined;
        if (next === undefined) return;
        event.preventDefault();
        onMove(isAcross ? 'x' : 'y', next);
      }}
    >
      <span className="absolute top-1/2 left-0 h-px w-full bg-line" />
      <span className="absolute top-0 left-1/2 h-full w-px bg-line" />
      <span
        className="absolute size-4 -translate-x-1/2 translate-y-1/2 rounded-full border-2 border-primary bg-base-100"
        style={{ left: `${shareOf(control, x) * 100}%`, bottom: `${shareOf(control, y) * 100}%` }}
      />
    </div>
  );
}

import { cabling, show as core } from '@deep-patch/core';
import { Minus, Plus, Scan } from 'lucide-react';
import type { ReactNode } from 'react';
import { useShow, useWorkspace } from '../../live/workspace.tsx';
import { DeviceOptions } from '../../parts/device-options.tsx';
import { saveFile } from '../../parts/save-file.ts';
import type { Layout } from './layout.ts';
import { savePng, svgText } from './save-picture.ts';
import type { usePan } from './use-pan.ts';

export interface Question {
  readonly networkId: string;
  readonly fromId: string;
  readonly toId: string;
}

interface Props {
  readonly picture: cabling.Picture;
  readonly question: Question;
  readonly way: readonly cabling.PictureRun[] | undefined;
  readonly layout: Layout | undefined;
  readonly pan: Pick<ReturnType<typeof usePan>, 'svg' | 'whole' | 'by'>;
  readonly onAsk: (question: Question) => void;
}

/** What may be shown alone beside one network. */
const layers = [
  ['network', 'networks without pictures'],
  ['picture', 'pictures alone'],
  ['sound', 'sound alone'],
  ['led', 'LED data alone'],
] as const;

/** What is asked of the picture, how it is moved, and how it is kept. */
export function PictureTools({ picture, question, way, layout, pan, onAsk }: Props) {
  const show = useShow();
  const { showId } = useWorkspace();
  const networks = core.rowsOf(show, 'networks').sort(core.byName);
  const units = picture.units.flatMap(({ id }) => show.devices[id] ?? []);
  const text = () => (pan.svg.current && layout ? svgText(pan.svg.current, layout) : undefined);
  const png = () => {
    const drawn = text();
    if (drawn !== undefined && layout) void savePng(`${showId}-cabling.png`, drawn, layout);
  };
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-rule px-3 py-1.5 text-[13px]">
      <Choice label="Network" value={question.networkId} onChoose={(networkId) => onAsk({ ...question, networkId })}>
        <option value="">all networks</option>
        {networks.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
        {layers.map(([layer, words]) => (
          <option key={layer} value={`layer ${layer}`}>
            {words}
          </option>
        ))}
      </Choice>
      <Choice label="The way from" value={question.fromId} onChoose={(fromId) => onAsk({ ...question, fromId })}>
        <option value="">the way from</option>
        <DeviceOptions devices={units} />
      </Choice>
      <Choice label="to" value={question.toId} onChoose={(toId) => onAsk({ ...question, toId })}>
        <option value="">to</option>
        <DeviceOptions devices={units} />
      </Choice>
      <span className="ml-auto flex gap-1.5">
        <IconButton label="Closer" onClick={() => pan.by(1.25)} icon={<Plus size={14} aria-hidden />} />
        <IconButton label="Wider" onClick={() => pan.by(0.8)} icon={<Minus size={14} aria-hidden />} />
        <IconButton label="All of it" onClick={pan.whole} icon={<Scan size={14} aria-hidden />} />
        <button
          type="button"
          className="act btn-xs"
          onClick={() => {
            const drawn = text();
            if (drawn !== undefined) saveFile(`${showId}-cabling.svg`, drawn, 'image/svg+xml');
          }}
        >
          SVG
        </button>
        <button type="button" className="act btn-xs" onClick={png}>
          PNG
        </button>
      </span>
      {question.fromId && question.toId && <Way way={way} question={question} />}
    </div>
  );
}

/** Every socket on the way, in its order. */
function Way({ way, question }: { readonly way: Props['way']; readonly question: Question }) {
  const show = useShow();
  const { devices } = show;
  if (!way)
    return (
      <p className="w-full text-error">
        No run leads from {devices[question.fromId]?.name} to {devices[question.toId]?.name}.
      </p>
    );
  const known = way.filter(({ lengthM }) => lengthM !== null);
  const metres = known.reduce((sum, { lengthM }) => sum + (lengthM ?? 0), 0);
  return (
    <p className="w-full">
      {cabling.wayWords(show, way, question.fromId).join(', ')}{' '}
      <span className="text-mute">
        {way.length === 1 ? '1 run' : `${way.length} runs`}, {metres} m
        {known.length < way.length && `, ${way.length - known.length} without a length`}
      </span>
    </p>
  );
}

function Choice({
  label,
  value,
  onChoose,
  children,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChoose: (value: string) => void;
  readonly children: ReactNode;
}) {
  return (
    <select
      aria-label={label}
      className="field-select h-7 w-36"
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      {children}
    </select>
  );
}

const IconButton = ({
  label,
  icon,
  onClick,
}: {
  readonly label: string;
  readonly icon: ReactNode;
  readonly onClick: () => void;
}) => (
  <button type="button" className="act btn-xs btn-square" aria-label={label} title={label} onClick={onClick}>
    {icon}
  </button>
);

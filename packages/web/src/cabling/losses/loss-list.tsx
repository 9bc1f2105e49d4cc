import type { contract, links } from '@deep-patch/core';
import { useShow } from '../../live/workspace.tsx';
import { Mark } from '../../parts/mark.tsx';
import { lossKey, lossName, mustHoldOf } from './loss-words.ts';

interface Props {
  readonly losses: readonly links.Loss[];
  readonly pulled: readonly contract.PulledRun[] | undefined;
  readonly chosen: links.Lost | undefined;
  readonly onChoose: (lost: links.Lost) => void;
}

/** What most hangs on comes first. A run takes the same down as either of its sockets. */
export function LossList({ losses, pulled, chosen, onChoose }: Props) {
  const bench = new Map(pulled?.map(({ cableId, stops }) => [cableId, stops]));
  return (
    <div
      className="max-h-72 overflow-y-auto border-r border-b border-rule lg:max-h-none lg:border-b-0"
      tabIndex={0}
      role="region"
      aria-label="If this goes"
    >
      <table className="w-full text-[13px]">
        <thead className="sticky top-0 z-1 bg-base-200 text-left text-xs text-faint">
          <tr className="border-b border-rule">
            <th scope="col" className="px-3 py-1.5">
              If this goes
            </th>
            <th scope="col" className="px-2">
              stop
            </th>
            <th scope="col" className="px-2">
              must hold
            </th>
            {bench.size > 0 && (
              <th scope="col" className="px-2">
                on the bench
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {losses.map((loss) => (
            <LossRow
              key={lossKey(loss)}
              loss={loss}
              isChosen={chosen !== undefined && lossKey(chosen) === lossKey(loss)}
              bench={bench}
              onChoose={() => onChoose(loss)}
            />
          ))}
        </tbody>
      </table>
      {losses.length === 0 && <p className="px-3 py-2 text-mute">Nothing by that name takes a link down.</p>}
    </div>
  );
}

function LossRow({
  loss,
  isChosen,
  bench,
  onChoose,
}: {
  readonly loss: links.Loss;
  readonly isChosen: boolean;
  readonly bench: ReadonlyMap<string, readonly string[]>;
  readonly onChoose: () => void;
}) {
  const show = useShow();
  const must = mustHoldOf(show, loss.stops);
  return (
    <tr className={`border-b border-rule ${isChosen ? 'bg-base-300' : ''}`}>
      <th scope="row" className={`p-0 text-left font-medium ${isChosen ? 'border-l-2 border-primary' : ''}`}>
        <button
          type="button"
          className="w-full px-3 py-1.5 text-left hover:underline"
          aria-pressed={isChosen}
          onClick={onChoose}
        >
          {lossName(show, loss)}
        </button>
      </th>
      <td className="px-2 font-mono text-error">{loss.stops.length}</td>
      <td className={`px-2 ${must > 0 ? 'text-warning' : 'text-faint'}`}>{must > 0 ? must : 'none'}</td>
      {bench.size > 0 && (
        <td className="px-2">
          <OnBench loss={loss} stops={loss.kind === 'run' ? bench.get(loss.id) : undefined} />
        </td>
      )}
    </tr>
  );
}

/** What pulling it did there, of the links that were sounded. */
function OnBench({ loss, stops }: { readonly loss: links.Loss; readonly stops: readonly string[] | undefined }) {
  if (!stops) return null;
  const more = stops.filter((id) => !loss.stops.includes(id)).length;
  return more > 0 ? (
    <span className="text-error">
      <Mark state="fail" size={11} /> {stops.length} stopped
    </span>
  ) : (
    <span className={stops.length > 0 ? 'text-mute' : 'text-success'}>
      {stops.length > 0 ? `${stops.length} stopped` : 'all held'}
    </span>
  );
}

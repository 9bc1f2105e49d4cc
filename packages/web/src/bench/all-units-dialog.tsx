import type { contract } from '@deep-patch/core';
import { Dialog } from '../parts/dialog.tsx';
import type { DoOnBench } from './use-bench.ts';

interface Props {
  readonly deviceIds: readonly string[];
  readonly bench: contract.BenchState;
  readonly act: DoOnBench;
  readonly onClose: () => void;
}

const choices = (deviceIds: string[]): { name: string; what: string; wanted: contract.BenchAct }[] => [
  {
    name: 'Everything as planned',
    what: 'Every unit has what the plan says, as if a crew had keyed it in. What you keyed in here, and what waits to be confirmed, is lost.',
    wanted: { act: 'follow_plan', deviceIds },
  },
  {
    name: 'Everything as delivered',
    what: 'Every unit is as it comes out of its case: factory address, first sign-in, no stored sets. What was keyed in is lost, and links stop until the units are set up.',
    wanted: { act: 'factory', deviceIds },
  },
  {
    name: 'Restart everything',
    what: 'Settings are kept. Connections drop, borrowed addresses are asked for again, and what waits for a restart comes into force. Units without power stay off.',
    wanted: { act: 'restart', deviceIds },
  },
];

/** What can be done to all stand-ins at once, each with what is lost by it. The plan is never touched. */
export function AllUnitsDialog({ deviceIds, bench, act, onClose }: Props) {
  const faults = bench.faults.length;
  const go = (wanted: contract.BenchAct) => void act(wanted).then(onClose);
  return (
    <Dialog title={`All ${deviceIds.length} stand-ins`} onClose={onClose} unsaved={false}>
      <ul className="grid gap-4">
        {choices([...deviceIds]).map(({ name, what, wanted }) => (
          <li key={name} className="grid grid-cols-[1fr_auto] items-start gap-x-4">
            <p>
              <b className="font-semibold">{name}</b>
              <span className="block text-[13px] text-mute">{what}</span>
            </p>
            <button type="button" className="act" aria-label={`Do it: ${name}`} onClick={() => go(wanted)}>
              Do it
            </button>
          </li>
        ))}
      </ul>
      <StartUps bench={bench} act={act} />
      <p className="mt-4 text-[13px] text-mute">
        Only the bench changes; the plan stays as it is.
        {faults > 0 &&
          ` ${faults === 1 ? 'The fault that you set stays until it is' : `The ${faults} faults that you set stay until they are`} mended.`}
      </p>
    </Dialog>
  );
}

/** Units take as long as their type says, or are there at once. */
function StartUps({ bench, act }: { readonly bench: contract.BenchState; readonly act: DoOnBench }) {
  return (
    <label className="mt-4 flex items-center gap-3 border-t border-rule pt-4">
      Start-up times
      <select
        className="field-select w-32"
        value={bench.startUps}
        onChange={({ target }) => void act({ act: 'start_ups', mode: target.value === 'real' ? 'real' : 'skipped' })}
      >
        <option value="skipped">skipped</option>
        <option value="real">real</option>
      </select>
    </label>
  );
}

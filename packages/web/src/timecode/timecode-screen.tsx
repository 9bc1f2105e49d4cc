import { timecode } from '@deep-patch/core';
import { useSearchParams } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { ViewChoice } from '../parts/view-choice.tsx';
import { CalculatorView } from './calculator-view.tsx';
import { ChainsView } from './chains-view.tsx';
import { MakeDialog } from './make-dialog.tsx';
import { MidiView } from './midi-view.tsx';
import { SessionsView } from './sessions-view.tsx';
import { SoundView } from './sound-view.tsx';

const views = [
  ['chains', 'Chains'],
  ['sessions', 'Sessions'],
  ['sound', 'Read sound'],
  ['midi', 'Read MIDI'],
  ['calculator', 'Calculator'],
] as const;
type View = (typeof views)[number][0];

/** Time code: its way from each source to every receiver, read from sound and from MIDI, and reckoned with. */
export function TimecodeScreen() {
  const show = useShow();
  const { analysis } = useWorkspace();
  const [query, setQuery] = useSearchParams();
  const see = views.find(([key]) => key === query.get('see'))?.[0] ?? 'chains';
  const chains = timecode.chainsOf(show);
  const hops = chains.reduce((sum, chain) => sum + chain.hops.length, 0);
  const stopping = (analysis?.findings ?? []).filter(
    ({ room, grade }) => room === 'timecode' && grade === 'stops',
  ).length;
  const summary =
    chains.length === 0
      ? ''
      : `${chains.length} ${chains.length === 1 ? 'chain' : 'chains'} · ${hops} ${hops === 1 ? 'hop' : 'hops'}${stopping > 0 ? ` · ${stopping} to mend` : ''}`;
  const go = (patch: Record<string, string>) => setQuery({ ...(see === 'chains' ? {} : { see }), ...patch });
  return (
    <>
      <ScreenHead title="Timecode" summary={summary}>
        <ViewChoice<View> views={views} see={see} onSee={(key) => setQuery(key === 'chains' ? {} : { see: key })} />
        <button type="button" className={see === 'sound' ? 'act' : 'act-quiet'} onClick={() => go({ do: 'make' })}>
          Make a file
        </button>
      </ScreenHead>
      {see === 'chains' && <ChainsView chains={chains} />}
      {see === 'sessions' && <SessionsView />}
      {see === 'sound' && <SoundView />}
      {see === 'midi' && <MidiView />}
      {see === 'calculator' && <CalculatorView />}
      {query.get('do') === 'make' && <MakeDialog onClose={() => go({})} />}
    </>
  );
}

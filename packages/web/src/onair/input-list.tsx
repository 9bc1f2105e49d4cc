import { onair } from '@deep-patch/core';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { faceOf } from '../live/face-of.ts';

interface Props {
  readonly inputs: readonly onair.AirInput[];
  readonly chosen: number | undefined;
  readonly onChoose: (number: number) => void;
}

/** The inputs as they stand on the panel, with what is on air and what comes next on the bench. */
export function InputList({ inputs, chosen, onChoose }: Props) {
  const id = inputs[0]?.switcher.id ?? '';
  const onAir = useBenchPart((known) => faceOf(known?.standins, id, 'on air'));
  const next = useBenchPart((known) => faceOf(known?.standins, id, 'next'));
  const isUp = useBenchPart((known) => known?.standins.find(({ deviceId }) => deviceId === id)?.status === 'up');
  return (
    <ul
      className="w-75 shrink-0 overflow-auto border-r border-rule bg-base-200 max-md:w-44 max-sm:max-h-44 max-sm:w-full max-sm:border-r-0 max-sm:border-b"
      aria-label="Inputs"
    >
      {inputs.map((input) => {
        const number = String(input.number);
        const state = !isUp ? '' : onAir === number ? 'on_air' : next === number ? 'next' : '';
        const isChosen = input.number === chosen;
        return (
          <li key={input.number} className="border-b border-rule">
            <button
              type="button"
              className={`grid w-full grid-cols-[2rem_1fr_auto] items-center gap-x-2 px-2.5 py-2 text-left hover:bg-base-300 ${isChosen ? 'bg-base-300 shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
              aria-current={isChosen}
              onClick={() => onChoose(input.number)}
            >
              <span className="key-num text-mute">{number}</span>
              <span className="min-w-0">
                <span className="block truncate font-semibold">{input.label}</span>
                <SourceWords input={input} />
              </span>
              <OnAirMark state={state} />
            </button>
          </li>
        );
      })}
    </ul>
  );
}

function OnAirMark({ state }: { readonly state: string }) {
  if (state === 'on_air')
    return (
      <span className="flex items-center gap-1 text-[13px] text-success">
        <i className="size-2 rounded-full bg-success" aria-hidden /> on air
      </span>
    );
  if (state === 'next')
    return (
      <span className="flex items-center gap-1 text-[13px] text-primary">
        <i className="size-2 rounded-full border-2 border-primary" aria-hidden /> next
      </span>
    );
  return null;
}

/** The channel, and who is on it on the bench. */
function CallerWords({ input }: { readonly input: onair.AirInput }) {
  const gateway = onair.callerOn(useShow(), input);
  const { channel } = input.rule;
  const who = useBenchPart((state) => faceOf(state?.standins, gateway?.id ?? '', channel));
  return (
    <span className="block truncate text-xs text-mute">
      caller, {channel}
      {who === undefined || who === 'nobody' ? '' : `: ${who}`}
    </span>
  );
}

/** What feeds it and what is on it, in one line. */
function SourceWords({ input }: { readonly input: onair.AirInput }) {
  const show = useShow();
  const { line, rule, player, state } = input;
  if (state === 'mismatch' || state === 'doubled')
    return (
      <span className="block truncate text-xs text-warning">
        <Mark state="risky" size={11} />{' '}
        {state === 'doubled' ? 'entered for several' : `entered as ${line.links[0]?.slot ?? '?'}`}
      </span>
    );
  if (rule.channel !== '') return <CallerWords input={input} />;
  if (player && !line.source)
    return <span className="block truncate text-xs text-mute">{player.name} is entered, nothing feeds it</span>;
  if (player) {
    const list = rule.offers === 'fixed' ? `list ${rule.list || '?'}, fixed` : 'list as selected';
    const many = onair.listsOf(show, player.id).size;
    return <span className="block truncate text-xs text-mute">{many === 0 ? 'no list yet' : list}</span>;
  }
  return (
    <span className="block truncate text-xs text-mute">
      {line.source ? line.source.place || line.source.name : 'nothing feeds it'}
    </span>
  );
}

import { onair, type show as core } from '@deep-patch/core';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useBenchPart } from '../live/bench-store.ts';
import { faceOf } from '../live/face-of.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty } from '../parts/empty.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { ViewChoice } from '../parts/view-choice.tsx';
import { HappenView } from './happen-view.tsx';
import { InputList } from './input-list.tsx';
import { InputPanel } from './input-panel.tsx';
import { LinkedView } from './linked-view.tsx';
import { ListsView } from './lists-view.tsx';
import { SwitcherView } from './switcher-view.tsx';

const views = [
  ['takes', 'Takes'],
  ['happens', 'What would happen'],
  ['switcher', 'Switcher'],
  ['lists', 'Lists'],
  ['together', 'Together'],
] as const;
type View = (typeof views)[number][0];

/** What goes on air: the inputs of a switcher, what each cut starts, and after how many frames the bus changes. */
export function OnAirScreen() {
  const show = useShow();
  const { showId, analysis } = useWorkspace();
  const { switcherId, input } = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const switchers = onair.switchersOf(show);
  const switcher = switchers.find(({ id }) => id === switcherId) ?? switchers[0];
  const see = views.find(([key]) => key === query.get('see'))?.[0] ?? 'takes';
  if (!switcher) return <NoSwitcher />;
  const inputs = onair.airInputsOf(show, switcher);
  const chosen =
    inputs.find(({ number }) => String(number) === input) ?? inputs.find(({ player }) => player) ?? inputs[0];
  const players = new Set(inputs.flatMap(({ player }) => player?.id ?? [])).size;
  const toMend = (analysis?.findings ?? []).filter(({ room, grade }) => room === 'onair' && grade !== 'note').length;
  const go = (id: string, number: number) =>
    void navigate(`/shows/${showId}/on-air/${id}/${number}${see === 'takes' ? '' : `?see=${see}`}`, { replace: true });
  return (
    <>
      <ScreenHead title="On air" summary={summaryOf(inputs.length, players, toMend)}>
        <ViewChoice<View> views={views} see={see} onSee={(key) => setQuery(key === 'takes' ? {} : { see: key })} />
        {see === 'takes' && chosen && <TakeButton switcher={switcher} input={chosen.number} />}
      </ScreenHead>
      {switchers.length > 1 && (
        <SwitcherChoice {...{ switchers, switcher }} onChoose={(id) => go(id, chosen?.number ?? 1)} />
      )}
      {see === 'lists' ? (
        <ListsView />
      ) : see === 'together' ? (
        <LinkedView />
      ) : (
        <div className="beside border-t border-rule max-sm:flex-col">
          <InputList inputs={inputs} chosen={chosen?.number} onChoose={(number) => go(switcher.id, number)} />
          <section className="min-w-0 flex-1 overflow-auto p-4.5" aria-label="The input">
            {see === 'happens' ? (
              <HappenView switcher={switcher} inputs={inputs} />
            ) : see === 'switcher' ? (
              <SwitcherView key={switcher.id} switcher={switcher} />
            ) : (
              chosen && <InputPanel key={`${switcher.id} ${chosen.number}`} input={chosen} />
            )}
          </section>
        </div>
      )}
    </>
  );
}

function summaryOf(inputs: number, players: number, toMend: number): string {
  const said = `${inputs} ${inputs === 1 ? 'input' : 'inputs'} · ${players} ${players === 1 ? 'player' : 'players'} tied to them`;
  return toMend > 0 ? `${said} · ${toMend} to mend` : said;
}

function SwitcherChoice({
  switchers,
  switcher,
  onChoose,
}: {
  readonly switchers: readonly core.Device[];
  readonly switcher: core.Device;
  readonly onChoose: (id: string) => void;
}) {
  return (
    <label className="flex items-center gap-2 px-4.5 pb-2 text-[13px] text-mute">
      Switcher
      <select className="field-select h-8 w-64" value={switcher.id} onChange={(event) => onChoose(event.target.value)}>
        {switchers.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Takes the input on air on the bench, now. */
function TakeButton({ switcher, input }: { readonly switcher: core.Device; readonly input: number }) {
  const show = useShow();
  const { act, power } = useBench();
  const isUp = useBenchPart(
    (known) => known?.standins.find(({ deviceId }) => deviceId === switcher.id)?.status === 'up',
  );
  const onAir = useBenchPart((known) => faceOf(known?.standins, switcher.id, 'on air'));
  const type = show.types[switcher.typeId];
  const service = type?.services.find(({ commands }) => commands.some(({ key }) => key === 'cut'));
  if (!service) return null;
  if (!isUp)
    return (
      <button type="button" className="act-main" onClick={() => void power(Object.keys(show.devices), true)}>
        Switch the bench on
      </button>
    );
  return (
    <button
      type="button"
      className="act-main"
      disabled={onAir === String(input)}
      onClick={() =>
        void act({ act: 'touch', deviceId: switcher.id, serviceKey: service.key, command: 'cut', args: [input] })
      }
    >
      Take {input}
    </button>
  );
}

function NoSwitcher() {
  const { showId } = useWorkspace();
  return (
    <>
      <ScreenHead title="On air" summary="" />
      <Empty text="A cut starts players and leaves others. Put a switcher into the rig first, and lead pictures into its inputs.">
        <Link to={`/shows/${showId}/rig?do=add`} className="act-main">
          Add a switcher
        </Link>
      </Empty>
    </>
  );
}

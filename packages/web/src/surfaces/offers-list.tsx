import { useDraggable } from '@dnd-kit/core';
import { cues as cueRoom, surfaces, type show as core, type Show } from '@deep-patch/core';
import { GripVertical } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow } from '../live/workspace.tsx';
import { hasWords } from '../parts/has-words.ts';

interface Props {
  readonly surface: core.Device;
  /** The control that a click assigns to; without one offers are only dragged. */
  readonly onto: surfaces.SurfaceControl | undefined;
  readonly onPick: (offer: surfaces.Offer, args?: core.Assignment['args']) => void;
}

/** A function; or one with values that were typed, or with a name that its target has now: what appears there is offered at once. */
interface Entry {
  readonly offer: surfaces.Offer & { readonly linked: boolean };
  readonly said: string;
  readonly args: core.Assignment['args'] | undefined;
}

export const offerId = ({ target, service, command }: surfaces.Offer): string =>
  `${target.id} ${service.key} ${command.key}`;

const entryId = ({ offer, said }: Entry): string => `${offerId(offer)} ${said}`;

/** Names of a list behind the function that takes one, as they are on the bench, else as the show knows them. */
function entriesOf(
  show: Show,
  offers: readonly Entry['offer'][],
  standins: readonly { readonly deviceId: string; readonly lists: Readonly<Record<string, readonly string[]>> }[] = [],
): Entry[] {
  const now = new Map(standins.map(({ deviceId, lists }) => [deviceId, lists]));
  return offers.flatMap((offer) => {
    const list = offer.command.args.find((argument) => argument.list !== undefined)?.list;
    const { id } = offer.target;
    const names = list === undefined ? [] : (now.get(id)?.[list] ?? cueRoom.knownNames(show)(id, list) ?? []);
    const named = [...new Set(names)].map((name) => ({
      ...{ offer, said: `“${name}”` },
      args: surfaces.argsWithName(offer.command, name),
    }));
    return [{ offer, said: '', args: undefined }, ...named];
  });
}

/** What targets offer, by unit and function; what is essential and still on no control is marked. */
export function OffersList({ surface, onto, onPick }: Props) {
  const show = useShow();
  const [filter, setFilter] = useState('');
  const offers = useMemo(() => surfaces.offersFor(show, surface), [show, surface]);
  const missing = useMemo(() => {
    const targets = new Map(offers.map(({ target }) => [target.id, target]));
    return new Set([...targets.values()].flatMap((target) => surfaces.missingOf(show, target).map(offerId)));
  }, [show, offers]);
  const standins = useBenchPart((known) => known?.standins);
  const entries = useMemo(() => entriesOf(show, offers, standins), [show, offers, standins]);
  const isMeant = hasWords(filter);
  const typed = useMemo(
    () => surfaces.offersTyped(offers, filter).map((own): Entry => ({ ...own, said: own.args.map(String).join(', ') })),
    [offers, filter],
  );
  const found = entries.filter(({ offer: { target, command, service }, said }) =>
    isMeant(`${target.name} ${command.label} ${said} ${service.label} ${command.address}`),
  );
  // a message without values is the function itself: it is offered once
  const asTyped = new Set(typed.map(entryId));
  const shown = [...typed, ...found.filter((entry) => !asTyped.has(entryId(entry)))];
  return (
    <section className="grid gap-1.5">
      <h3 className="text-xs font-semibold text-mute">What targets offer</h3>
      <input
        type="search"
        className="field"
        placeholder="Find a function, or type its message"
        aria-label="Find a function, or type its message"
        value={filter}
        onChange={(event) => setFilter(event.target.value)}
        onKeyDown={(event) => {
          const [first] = shown;
          if (event.key !== 'Enter' || !onto || filter.trim() === '' || !first) return;
          onPick(first.offer, first.args);
          setFilter('');
        }}
      />
      <ul className="max-h-72 overflow-auto rounded-sm border border-rule">
        {shown.slice(0, 200).map((entry) => (
          <Offered
            key={entryId(entry)}
            entry={entry}
            missing={entry.args === undefined && missing.has(offerId(entry.offer))}
            onto={onto}
            onPick={onPick}
          />
        ))}
        {shown.length === 0 && (
          <li className="p-3 text-mute">
            {offers.length === 0
              ? `${surface.name} drives nothing that is here: its type names the protocols that it speaks.`
              : 'Nothing is called so.'}
          </li>
        )}
      </ul>
    </section>
  );
}

function Offered({
  entry,
  missing,
  onto,
  onPick,
}: {
  readonly entry: Entry;
  readonly missing: boolean;
  readonly onto: surfaces.SurfaceControl | undefined;
  readonly onPick: Props['onPick'];
}) {
  const { offer, said, args } = entry;
  const { setNodeRef, listeners, attributes } = useDraggable({ id: entryId(entry), data: { offer, args } });
  const name = `${offer.target.name}: ${offer.command.label}${said === '' ? '' : ` ${said}`}`;
  return (
    <li className="flex items-center gap-1 border-b border-rule last:border-0">
      <button
        ref={setNodeRef}
        type="button"
        className="cursor-grab px-1 py-2 text-faint"
        {...listeners}
        {...attributes}
        aria-label={`Drag ${name} onto a control`}
      >
        <GripVertical size={13} aria-hidden />
      </button>
      <button
        type="button"
        className="min-w-0 flex-1 truncate py-1.5 text-left disabled:cursor-default"
        disabled={!onto}
        title={`${name} · ${offer.command.address}`}
        onClick={() => onPick(offer, args)}
      >
        {offer.target.name} <b className="font-semibold">{offer.command.label}</b>
        {said !== '' && ` ${said}`}
        {missing && <span className="ml-1.5 text-error">✕ on no control</span>}
        {!offer.linked && <span className="ml-1.5 text-xs text-faint">no link yet</span>}
      </button>
    </li>
  );
}

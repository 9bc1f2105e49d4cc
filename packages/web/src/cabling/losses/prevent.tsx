import { cabling, findings, links, show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useShow, useWorkspace } from '../../live/workspace.tsx';
import { lossName } from './loss-words.ts';
import { useLossAnswer } from './use-losses.ts';

/** Which links must hold, and the fewest runs after which no single loss stops one of them. */
export function Prevent() {
  const show = useShow();
  const [against, setAgainst] = useState<links.Against>();
  const plan = useLossAnswer<'fewest'>(show, against && { ask: 'fewest', against });
  return (
    <section aria-label="What must hold" className="grid gap-2 border-t border-rule pt-3 text-[13px]">
      <MustHold />
      <div className="flex flex-wrap items-center gap-2">
        {(['run', 'unit'] as const).map((kind) => (
          <button
            key={kind}
            type="button"
            className={`act btn-sm ${against === kind ? 'border-primary' : ''}`}
            aria-pressed={against === kind}
            onClick={() => setAgainst(against === kind ? undefined : kind)}
          >
            {kind === 'run' ? 'Hold against any one run' : 'Hold against any one switch'}
          </button>
        ))}
      </div>
      {against && !plan && <p className="text-mute">Looking for the fewest runs that do</p>}
      {against && plan && <Plan plan={plan} against={against} />}
    </section>
  );
}

function MustHold() {
  const show = useShow();
  const { save, analysis } = useWorkspace();
  const all = core.rowsOf(show, 'links');
  const reaching = all.filter(({ id }) => analysis?.soundings.get(id)?.stopsAt === undefined);
  const marked = all.filter(({ mustHold }) => mustHold);
  const mark = (links_: readonly core.Link[], on: boolean) =>
    void save(
      links.planMustHold(
        show,
        links_.map(({ id }) => id),
        on,
      ),
    );
  return (
    <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
      {marked.length === 0
        ? 'No link is marked as one that must hold.'
        : `${marked.length} of ${findings.counted(all.length, 'link')} must hold.`}
      {marked.length < reaching.length && (
        <button type="button" className="act-quiet btn-xs" onClick={() => mark(reaching, true)}>
          Mark all that reach the bottom
        </button>
      )}
      {marked.length > 0 && (
        <button type="button" className="act-quiet btn-xs" onClick={() => mark(marked, false)}>
          Mark none
        </button>
      )}
      <span className="text-mute">One by one: at the link.</span>
    </p>
  );
}

function Plan({ plan, against }: { readonly plan: links.FewestRuns; readonly against: links.Against }) {
  const show = useShow();
  const { save } = useWorkspace();
  const [word, words] = against === 'run' ? (['run', 'runs'] as const) : (['switch', 'switches'] as const);
  if (plan.before === 0)
    return <p className="text-success">No single {word} stops a link that must hold. Nothing to add.</p>;
  const { change, runs } = plan;
  return (
    <div className="grid gap-2">
      <p>
        {plan.before === 1 ? `One ${word} stops` : `${plan.before} ${words}, each by itself, stop`} what must hold.{' '}
        {runs.length > 0 && (
          <b>
            {runs.length === 1 ? 'One more run prevents' : `${runs.length} more runs prevent`}{' '}
            {plan.notPrevented.length === 0
              ? 'that.'
              : `it for ${findings.counted(plan.before - plan.notPrevented.length, word, words)}.`}
          </b>
        )}{' '}
        {runs.length > 0 && <span className="text-mute">{boundWords(plan)}</span>}
      </p>
      {runs.length > 0 && (
        <ul className="grid gap-0.5">
          {runs.map(({ from, to }) => (
            <li key={`${from.device.id} ${from.socket}`}>
              {cabling.endWords(show, from.device.id, from.socket)} <span className="text-mute">to</span>{' '}
              {cabling.endWords(show, to.device.id, to.socket)}
            </li>
          ))}
        </ul>
      )}
      {change && (
        <button type="button" className="act-main justify-self-start" onClick={() => void save(change)}>
          {runs.length === 1 ? 'Plug it in' : `Plug all ${runs.length} in`}
        </button>
      )}
      {plan.notPrevented.length > 0 && <NotPrevented list={plan.notPrevented} />}
    </div>
  );
}

const boundWords = ({ proven, atLeast }: links.FewestRuns): string =>
  proven
    ? 'No fewer would do.'
    : `At least ${atLeast} are needed for all of it; whether fewer than these would do was not proved.`;

const mostTold = 8;

/** What no further run prevents, by the reason. */
function NotPrevented({ list }: { readonly list: readonly links.NotPrevented[] }) {
  const show = useShow();
  const byWhy = whys
    .map((why) => [why, list.filter((one) => one.why === why)] as const)
    .filter(([, own]) => own.length > 0);
  return (
    <ul className="grid gap-1 text-mute">
      {byWhy.map(([why, own]) => (
        <li key={why}>
          <b className="font-medium text-base-content">{reasons[why]}</b>{' '}
          {own
            .slice(0, mostTold)
            .map((one) => (why === 'no_socket' ? shortWords(show, one) : lossName(show, one)))
            .filter((name, at, all) => all.indexOf(name) === at)
            .join(', ')}
          {own.length > mostTold && ` and ${own.length - mostTold} more`}
        </li>
      ))}
    </ul>
  );
}

const reasons: Readonly<Record<links.NotPrevented['why'], string>> = {
  no_socket: 'No socket is left for a second run at:',
  sockets_short: 'Another run would do, and its socket is taken by those above:',
  no_tree: 'No run helps that spanning tree would cover; put a managed switch there:',
  the_way: 'Not a matter of cables alone; look at addresses and routers:',
};

const whys = Object.keys(reasons) as links.NotPrevented['why'][];

const shortWords = (show: core.Show, { short }: links.NotPrevented): string =>
  short
    .map((id) => show.devices[id]?.name ?? '')
    .sort((a, b) => a.localeCompare(b))
    .join(' with ');

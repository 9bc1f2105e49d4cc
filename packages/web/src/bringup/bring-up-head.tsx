import { bringup, type Show } from '@deep-patch/core';
import { useState } from 'react';
import { asProblem } from '../live/api.ts';
import { useNotices } from '../live/notices.tsx';
import { useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Options } from '../parts/form-fields.tsx';
import { ScreenHead } from '../parts/screen-head.tsx';
import { ChosenField, TypedField } from '../parts/typed-fields.tsx';
import { keepName, ownName } from './own-name.ts';
import { putAsDelivered } from './use-sheet.ts';

interface Props {
  readonly show: Show;
  readonly plan: bringup.BringUp | undefined;
}

export function BringUpHead({ show, plan }: Props) {
  const { showId } = useWorkspace();
  const [open, setOpen] = useState<'why' | 'set'>();
  return (
    <ScreenHead title="Bring-up" summary={summaryOf(show, plan)}>
      <button type="button" className="act" onClick={() => setOpen('set')}>
        Your computer
      </button>
      <button type="button" className="act" disabled={!plan} onClick={() => setOpen('why')}>
        Why this order?
      </button>
      <a className="act max-sm:hidden" href={`/api/shows/${showId}/sheets.pdf`} target="_blank" rel="noreferrer">
        Print sheets
      </a>
      {open === 'why' && plan && <WhyDialog show={show} plan={plan} onClose={() => setOpen(undefined)} />}
      {open === 'set' && <ComputerDialog show={show} plan={plan} onClose={() => setOpen(undefined)} />}
    </ScreenHead>
  );
}

function summaryOf(show: Show, plan: bringup.BringUp | undefined): string {
  if (!plan) return 'working out the order …';
  if (plan.steps.length === 0) return 'nothing left to set';
  const units = new Set(plan.steps.map(({ deviceId }) => deviceId));
  units.delete(plan.computer?.id ?? '');
  const moves = `${plan.changes} ${plan.changes === 1 ? 'change' : 'changes'} of the computer’s address`;
  const cables = plan.cables === 0 ? '' : ` · ${plan.cables} of its cable`;
  return `${units.size} units · ${moves}${cables} · about ${bringup.aboutTime(plan.seconds * bringup.paceOf(show))}`;
}

/** What decided the order, and how good it is. */
function WhyDialog({
  show,
  plan,
  onClose,
}: {
  readonly show: Show;
  readonly plan: bringup.BringUp;
  readonly onClose: () => void;
}) {
  return (
    <Dialog title="Why this order?" onClose={onClose} unsaved={false}>
      <p>
        Fewest changes of your computer’s address first, then fewest moves of its cable, then least waiting. At no
        moment do two powered units have the same address.
      </p>
      <p className="mt-2">
        {plan.exact
          ? `No order has fewer than ${plan.bound} ${plan.bound === 1 ? 'change' : 'changes'}: every one was ruled out.`
          : `${plan.changes} changes; no order can have fewer than ${plan.bound}. With so many networks not every order was tried.`}
      </p>
      <p className="mt-2 text-mute">Each step says under “Why here?” what put it there.</p>
      {plan.blocked.length > 0 && (
        <ul className="mt-3 grid gap-1 border-t border-rule pt-3 text-[13px]">
          {plan.blocked.map((blocked, at) => (
            <li key={`${blocked.deviceId} ${at}`}>{bringup.blockedWords(show, blocked)}</li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}

/** Which computer everything is set from, what its adapter may hold, and by what name its user stands in the log. */
function ComputerDialog({ show, plan, onClose }: Props & { readonly onClose: () => void }) {
  const { save } = useWorkspace();
  const computers = bringup.computersFor(show);
  const [id, setId] = useState(plan?.computer?.id ?? computers[0]?.id ?? '');
  const [holds, setHolds] = useState(String(show.progress[id]?.holds ?? 1));
  const [name, setName] = useState(ownName());
  const most = Number(holds);
  const fault = /^\d+$/.test(holds) && most >= 1 && most <= 64 ? undefined : 'A number from 1 to 64';
  const keep = async () => {
    keepName(name);
    if (id !== '' && !fault) await save(bringup.planComputer(show, id, most));
    onClose();
  };
  return (
    <Dialog title="Your computer" onClose={onClose}>
      <form
        className="grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <ChosenField label="Everything is set from" value={id} onChoose={setId}>
          <Options of={computers.map((computer) => [computer.id, computer.name] as const)} />
        </ChosenField>
        <TypedField
          label="Addresses that an adapter of it may hold at once"
          hint="1 where its system takes only one"
          value={holds}
          onType={setHolds}
          error={fault}
          look="number"
        />
        <TypedField label="Your name on the sheet" value={name} onType={setName} most={40} />
        <button type="submit" className="act-main justify-self-start" disabled={fault !== undefined}>
          Keep it
        </button>
      </form>
      <Anew show={show} computerId={plan?.computer?.id} onDone={onClose} />
    </Dialog>
  );
}

/** The whole bring-up tried out: everything as it comes out of its case. */
function Anew({
  show,
  computerId,
  onDone,
}: {
  readonly show: Show;
  readonly computerId: string | undefined;
  readonly onDone: () => void;
}) {
  const { save, showId } = useWorkspace();
  const { tell } = useNotices();
  const [busy, setBusy] = useState(false);
  const asDelivered = async () => {
    setBusy(true);
    try {
      await save(bringup.planStartOver(show));
      await putAsDelivered(show, showId, computerId);
      onDone();
    } catch (error) {
      tell({ problem: asProblem(error) });
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="mt-4 grid gap-2 border-t border-rule pt-4">
      <p className="text-[13px] text-mute">
        Try the whole bring-up out: the bench is put as everything comes out of its case, and what was done here is
        forgotten.
      </p>
      <button type="button" className="act justify-self-start" disabled={busy} onClick={() => void asDelivered()}>
        {busy ? 'Unpacking …' : 'Begin anew on the bench'}
      </button>
    </div>
  );
}

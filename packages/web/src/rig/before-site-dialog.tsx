import { rig, show as core } from '@deep-patch/core';
import { useMemo, useState } from 'react';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Tick } from '../parts/typed-fields.tsx';
import { useNow } from '../parts/use-now.ts';
import { Contacts } from './contacts.tsx';

const titles: Readonly<Record<rig.SiteSection, string>> = {
  update: 'Update, in this order',
  pack: 'Pack',
  licence: 'Licences',
  install: 'Install',
  online: 'While there is internet',
  access: 'Accounts at hand',
  save: 'Save a copy',
  papers: 'Papers to have at hand',
  power: 'Switching on',
};

/** Everything to do before the site, worked out from the rig, to be ticked off by whoever does it. */
export function BeforeSiteDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const now = useNow(3_600_000);
  const items = useMemo(() => rig.beforeSite(show, now), [show, now]);
  const [openOnly, setOpenOnly] = useState(false);
  const shown = openOnly ? items.filter(({ done }) => !done) : items;
  const sections = [...core.groupBy(shown, ({ section }) => section)] as [rig.SiteSection, rig.SiteItem[]][];
  const left = items.filter(({ done }) => !done).length;
  return (
    <Dialog title="Before the site" onClose={onClose} wide unsaved={false}>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <p className="text-mute">{items.length === 0 ? 'Nothing to do.' : `${left} of ${items.length} still open.`}</p>
        <Tick checked={openOnly} onTick={setOpenOnly}>
          only what is open
        </Tick>
        <button
          type="button"
          className="act ml-auto"
          onClick={() => void navigator.clipboard.writeText(textOf(sections))}
        >
          Copy as text
        </button>
      </div>
      <div className="grid gap-5 md:grid-cols-2">
        {sections.map(([section, list]) => (
          <section key={section}>
            <h3 className="mb-1 text-xs font-semibold text-mute">
              {titles[section]} · {list.length}
            </h3>
            <ul>
              {list.map((item) => (
                <li key={`${item.device?.id ?? ''} ${item.key}`} className="border-b border-rule py-1">
                  {section === 'licence' ? <LicenceLine item={item} /> : <TickLine item={item} />}
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      <PowerOrder />
      <Contacts />
    </Dialog>
  );
}

const textOf = (sections: readonly (readonly [rig.SiteSection, readonly rig.SiteItem[]])[]): string =>
  sections
    .map(([section, list]) =>
      [titles[section], ...list.map((item) => `${item.done ? '[x]' : '[ ]'} ${lineOf(item)}`)].join('\n'),
    )
    .join('\n\n');

function TickLine({ item }: { item: rig.SiteItem }) {
  const { save } = useWorkspace();
  return (
    <label className="flex items-start gap-2.5">
      <input
        type="checkbox"
        className="checkbox checkbox-sm mt-0.5"
        checked={item.done}
        disabled={item.section === 'access'}
        onChange={() => void save(rig.planTick(item, new Date().toISOString().slice(0, 10)))}
      />
      <span className={item.done ? 'text-mute line-through' : ''}>{lineOf(item)}</span>
    </label>
  );
}

const stageTexts: Readonly<Record<rig.PowerStage, string>> = {
  network: 'Switches, router, access points',
  targets: 'What is controlled',
  controllers: 'What controls',
  programs: 'Programs',
};

/** In which order to switch on, and how long to wait; ticked off unit by unit. */
function PowerOrder() {
  const show = useShow();
  const steps = rig.powerOrder(show);
  if (steps.length === 0) return null;
  return (
    <section className="mt-5">
      <h3 className="mb-1 text-xs font-semibold text-mute">Switching on, in this order</h3>
      <ol className="list-inside list-decimal">
        {steps.map(({ stage, devices, waitSeconds }, at) => (
          <li key={`${stage} ${devices[0]?.id}`} className="border-b border-rule py-1">
            {steps[at - 1]?.stage === stage ? `${stageTexts[stage]} that look those up` : stageTexts[stage]}
            {waitSeconds > 0 && <span className="text-mute">; wait {waitSeconds} s until they answer</span>}
            <div className="flex flex-wrap gap-x-5 pl-5">
              {devices.map((device) => (
                <PowerTick key={device.id} item={rig.powerItem(device)} />
              ))}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}

function PowerTick({ item }: { readonly item: rig.SiteItem }) {
  const { save } = useWorkspace();
  return (
    <Tick size="xs" checked={item.done} onTick={() => void save(rig.planTick(item, ''))}>
      {item.device?.name}
    </Tick>
  );
}

const lineOf = ({ device, text, count }: rig.SiteItem): string =>
  `${device ? `${device.name}: ` : ''}${count > 1 ? `${count} × ` : ''}${text}`;

/** Licences are counted, not ticked: how many the show owns. */
function LicenceLine({ item }: { item: rig.SiteItem }) {
  const show = useShow();
  const { save } = useWorkspace();
  const steady = useSteadyIds();
  const [, model = '', bundle = ''] = item.key.split(':');
  const owned = core
    .rowsOf(show, 'licences')
    .filter((licence) => licence.model === model && licence.bundle === bundle)
    .reduce((sum, licence) => sum + licence.owned, 0);
  return (
    <label className="flex items-center gap-2.5">
      <input
        type="number"
        min={0}
        max={9999}
        className="field key-num w-20"
        defaultValue={owned}
        key={owned}
        onBlur={(event) => {
          const next = Math.max(0, Math.min(9999, Math.round(Number(event.target.value))));
          if (next !== owned)
            void save(
              rig.planOwn(show, { model, bundle, label: item.text.split(':')[0] ?? '' }, next, steady.begin()),
            ).then((isIn) => isIn && steady.renew());
        }}
      />
      <span className={item.done ? 'text-mute' : ''}>{item.text}</span>
    </label>
  );
}

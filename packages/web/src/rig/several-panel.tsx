import { addressing, rig, show as core, type show } from '@deep-patch/core';
import { useState, type SyntheticEvent } from 'react';
import { useNotices } from '../live/notices.tsx';
import { useSaveAndGo } from '../live/use-save-and-go.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Options } from '../parts/form-fields.tsx';
import { ChosenField, TypedField } from '../parts/typed-fields.tsx';
import { WriteDown } from '../parts/write-down.tsx';
import { SeveralSet } from './device-to-set.tsx';
import { rigColumns, withHeadings } from './rig-columns.tsx';

const fields = rig.cellFields.filter((field) => field !== 'name' && field !== 'mac');
const headerOf = (field: string): string => rigColumns.find(({ key }) => key === field)?.header ?? field;

interface Props {
  readonly ids: readonly string[];
  readonly onWrite: (cells: readonly rig.Cell[]) => Promise<boolean>;
}

/** Several units at once: one value for all of them, numbering, or taking them out. */
export function SeveralPanel({ ids, onWrite }: Props) {
  const show = useShow();
  const { showId } = useWorkspace();
  const saveAndGo = useSaveAndGo();
  const { tell } = useNotices();
  const devices = ids.flatMap((id) => show.devices[id] ?? []);
  const remove = async () => {
    await saveAndGo(rig.planRemoveDevices(show, ids), `/shows/${showId}/rig`);
  };
  return (
    <aside aria-label={`${ids.length} units`} className="panel grid w-95 content-start gap-5 p-4 md:max-lg:w-80">
      <div>
        <h2 className="text-[15px] font-bold">{ids.length} units</h2>
        <p className="text-mute">
          {devices
            .slice(0, 4)
            .map(({ name }) => name)
            .join(', ')}
          {devices.length > 4 && ` and ${devices.length - 4} more`}
        </p>
      </div>
      <OneValue devices={devices} onWrite={onWrite} />
      <Numbering devices={devices} onWrite={onWrite} />
      <SeveralAddresses devices={devices} />
      <WriteDown deviceIds={ids} />
      <SeveralSet devices={devices} />
      <p className="text-[13px] text-mute">
        In the table: Ctrl D fills the column of the cursor down from {devices[0]?.name ?? 'the first'}, and what you
        paste from a spreadsheet lies over the cells from there.
      </p>
      <button
        type="button"
        className="act-quiet justify-self-start"
        onClick={() =>
          void navigator.clipboard
            .writeText(withHeadings(show, devices))
            .then(() =>
              tell({ text: `${devices.length} units are copied. Paste them into a spreadsheet, and back here.` }),
            )
        }
      >
        Copy with headings
      </button>
      <button type="button" className="act-quiet justify-self-start text-error" onClick={() => void remove()}>
        Remove {ids.length} units
      </button>
    </aside>
  );
}

interface Part {
  readonly devices: readonly show.Device[];
  readonly onWrite: Props['onWrite'];
}

function OneValue({ devices, onWrite }: Part) {
  const show = useShow();
  const [field, setField] = useState<rig.CellField>('place');
  const [text, setText] = useState('');
  const values = new Set(devices.map((device) => rig.cellText(show, device, field, null)));
  const write = (event: SyntheticEvent) => {
    event.preventDefault();
    void onWrite(devices.map(({ id }) => ({ deviceId: id, field, text })));
  };
  return (
    <form onSubmit={write} className="grid">
      <div className="grid grid-cols-2 gap-x-3">
        <ChosenField label="Column" value={field} onChoose={(key) => setField(key as rig.CellField)}>
          <Options of={fields.map((key) => [key, headerOf(key)] as const)} />
        </ChosenField>
        <TypedField
          label="Value"
          hint={values.size === 1 ? `now ${[...values][0] || 'empty'}` : `${values.size} different`}
          value={text}
          onType={setText}
        />
      </div>
      <button type="submit" className="act-main justify-self-start">
        Set for {devices.length} units
      </button>
    </form>
  );
}

function Numbering({ devices, onWrite }: Part) {
  const [first, setFirst] = useState('1');
  const number = (event: SyntheticEvent) => {
    event.preventDefault();
    const start = Number(first);
    void onWrite(devices.map(({ id }, at) => ({ deviceId: id, field: 'unit', text: String(start + at) })));
  };
  return (
    <form onSubmit={number} className="grid grid-cols-[1fr_auto] items-start gap-2">
      <TypedField
        label="Number them from"
        hint="in the order of the table"
        value={first}
        onType={(text) => setFirst(text.replace(/\D/g, ''))}
        look="number"
      />
      <button type="submit" className="act mt-5" disabled={first === ''}>
        Number
      </button>
    </form>
  );
}

const methods = { static: 'fixed', dhcp: 'from the server', self: 'by itself' } as const;

/** How all of them get their first address, and on which network it is. */
function SeveralAddresses({ devices }: Pick<Part, 'devices'>) {
  const show = useShow();
  const { analysis, save } = useWorkspace();
  const firsts = devices.flatMap(({ id }) => analysis?.addressing.byDevice.get(id)?.[0] ?? []);
  const networks = core.rowsOf(show, 'networks').sort(core.byName);
  if (firsts.length === 0) return null;
  const [method] = [...new Set(firsts.map(({ address }) => address.method))];
  const isOne = firsts.every(({ address }) => address.method === method);
  const on = new Set(firsts.map(({ network }) => network.id));
  return (
    <div className="grid grid-cols-2 gap-x-3">
      <ChosenField
        label="They get their address"
        value={isOne ? method : ''}
        onChoose={(chosen) =>
          void save(
            addressing.planMethods(
              show,
              firsts.map(({ address }) => address),
              chosen as keyof typeof methods,
            ),
          )
        }
      >
        {!isOne && <option value="">in different ways</option>}
        <Options of={Object.entries(methods)} />
      </ChosenField>
      <ChosenField
        label="On network"
        hint="same last figures where free"
        value={on.size === 1 ? [...on][0] : ''}
        onChoose={(id) => void save(addressing.planChangeNetwork(show, firsts, id))}
      >
        {on.size !== 1 && <option value="">on {on.size} networks</option>}
        <Options of={networks.map(({ id, name }) => [id, name] as const)} />
      </ChosenField>
    </div>
  );
}

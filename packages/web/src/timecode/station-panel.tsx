import { show as core, timecode } from '@deep-patch/core';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Tick } from '../parts/typed-fields.tsx';
import { RateFields } from './hop-panel.tsx';

/** A source: its rate, and whether it leads where there are several. */
export function StationPanel({ device }: { readonly device: core.Device }) {
  const show = useShow();
  const { save } = useWorkspace();
  const makes = core.typeOf(show, device)?.timecode?.makes === true;
  const hops = core.rowsOf(show, 'timeHops').filter(({ fromId }) => fromId === device.id);
  const formats = [...new Set(hops.map(({ format }) => timecode.formatWords[format]))];
  return (
    <div className="grid gap-3">
      <h2 className="font-bold">{device.name}</h2>
      <p className="text-mute">
        {makes
          ? 'It makes time code by itself, so it also serves as a generator for tests.'
          : 'It makes no time code by itself: it has to hear some.'}
        {formats.length > 1
          ? ` It gives ${formats.join(' and ')} from one time base; each receiver shows how far it is behind.`
          : ''}
      </p>
      <RateFields device={device} />
      <Tick
        checked={device.leads}
        onTick={(leads) =>
          void save(
            core.changeOf(`${device.name} ${leads ? 'leads' : 'does not lead'}`, [
              core.updateRow('devices', device, { leads }),
            ]),
          )
        }
      >
        It leads where there are several
      </Tick>
    </div>
  );
}

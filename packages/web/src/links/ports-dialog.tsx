import { cabling, links } from '@deep-patch/core';
import { useMemo, useState } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { PlainTable } from '../parts/plain-table.tsx';

const uses: Readonly<Record<links.PortLine['use'], string>> = {
  hears: 'hears',
  sends_from: 'sends from',
  hears_replies: 'hears replies',
};

/** Everything that somebody has to open or set for the links: ports by machine, firewalls, VLANs of switch sockets. */
const rates = [24, 25, 29.97, 30, 50, 59.94, 60] as const;
const airFrom: Readonly<Record<links.AirLine['from'], string>> = {
  sounded: 'half of the round trip sounded',
  written_down: 'as written down for its cables',
  unknown: 'sound it, or write the hop’s delay down',
};

export function PortsDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { analysis, seen } = useWorkspace();
  const ports = useMemo(() => links.portTable(show), [show]);
  const rules = useMemo(() => links.firewallRules(show), [show]);
  const vlans = useMemo(() => (analysis ? cabling.vlanTable(show, analysis.addressing) : []), [show, analysis]);
  const [rate, setRate] = useState<number>(50);
  const air = useMemo(() => {
    if (!analysis) return [];
    return links.overTheAir(show, links.linkFacts(show, analysis.addressing), seen);
  }, [show, analysis, seen]);
  return (
    <Dialog title="Ports, firewalls, VLANs, air" onClose={onClose} wide>
      <div className="grid gap-5">
        <section className="grid gap-1">
          <h3 className="text-xs font-semibold text-mute">Ports by machine · {ports.length}</h3>
          <PlainTable
            label="Ports by machine"
            heads={['Machine', 'Port', 'Use', 'For']}
            rows={ports.map((line, at) => ({
              id: String(at),
              cells: [
                line.machine.name,
                <code
                  className={line.clash ? 'text-error' : ''}
                >{`${line.transport.toUpperCase()} ${line.port}`}</code>,
                <span className="text-mute">{line.clash ? 'heard by two: clash' : uses[line.use]}</span>,
                line.owner.id === line.machine.id ? line.service : `${line.service} of ${line.owner.name}`,
              ],
            }))}
          />
        </section>
        <section className="grid gap-1">
          <h3 className="text-xs font-semibold text-mute">What firewalls must let through · {rules.length}</h3>
          <PlainTable
            label="Firewall rules"
            heads={['Computer', 'Program', 'Direction', 'Port', 'With']}
            rows={rules.map((rule, at) => ({
              id: String(at),
              cells: [
                rule.machine.name,
                rule.program,
                rule.direction,
                <code>{`${rule.transport.toUpperCase()} ${rule.port}`}</code>,
                rule.peer,
              ],
            }))}
          />
        </section>
        <section className="grid gap-1">
          <h3 className="text-xs font-semibold text-mute">Sockets of managed switches · {vlans.length}</h3>
          <PlainTable
            label="VLANs of switch sockets"
            heads={['Switch', 'Socket', 'Towards', 'Mode', 'VLANs']}
            rows={vlans.map(({ hub, socket, far, mode, vlans: own }) => ({
              id: `${hub.id} ${socket}`,
              cells: [
                hub.name,
                <code>{socket}</code>,
                far,
                <span className="text-mute">{mode === 'unclear' ? 'nothing planned behind it' : mode}</span>,
                <code>{own.join(', ')}</code>,
              ],
            }))}
          />
        </section>
        <section className="grid gap-1">
          <div className="flex items-center gap-3">
            <h3 className="text-xs font-semibold text-mute">Over the air · {air.length}</h3>
            <label className="flex items-center gap-1.5 text-xs text-mute">
              frames a second
              <select
                className="select select-xs w-20 border-line bg-base-100"
                value={rate}
                onChange={(event) => setRate(Number(event.target.value))}
              >
                {rates.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </select>
            </label>
          </div>
          <PlainTable
            label="Links over the air"
            heads={['From', 'To', 'One way', 'Send it earlier by', 'How it is known']}
            rows={air.map(({ link, controller, target, delayMs, from }) => ({
              id: link.id,
              cells: [
                controller.name,
                target.name,
                <code>{delayMs === undefined ? '?' : `${delayMs.toFixed(1)} ms`}</code>,
                <code>{delayMs === undefined ? '?' : frames(links.framesFor(delayMs, rate))}</code>,
                <span className="text-mute">{airFrom[from]}</span>,
              ],
            }))}
          />
          {air.length > 0 && (
            <p className="text-[13px] text-mute">
              Cable is better wherever there is a socket; over the air messages get lost.
            </p>
          )}
        </section>
      </div>
    </Dialog>
  );
}

const frames = (count: number): string => (count === 1 ? '1 frame' : `${count} frames`);

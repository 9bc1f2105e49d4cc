import { cabling, links } from '@deep-patch/core';
import { useMemo, useState, type ReactNode } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { PlainTable } from '../parts/plain-table.tsx';

const uses: Readonly<Record<links.PortLine['use'], string>> = {
  hears: 'hears',
  sends_from: 'sends from',
  hears_replies: 'hears replies',
};

const rates = [24, 25, 29.97, 30, 50, 59.94, 60] as const;
const airFrom: Readonly<Record<links.AirLine['from'], string>> = {
  sounded: 'half of the round trip sounded',
  written_down: 'as written down for its cables',
  unknown: 'sound it, or write the hop’s delay down',
};

/** Everything that somebody has to open or set for the links: ports by machine, firewalls, VLANs of switch sockets. */
export function PortsDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title="Ports, firewalls, VLANs, air" onClose={onClose} wide unsaved={false}>
      <div className="grid gap-5">
        <PortsByMachine />
        <FirewallRules />
        <SwitchSockets />
        <OverTheAir />
      </div>
    </Dialog>
  );
}

const Part = ({ title, children }: { readonly title: string; readonly children: ReactNode }) => (
  <section className="grid gap-1">
    <h3 className="text-xs font-semibold text-mute">{title}</h3>
    {children}
  </section>
);

const portWords = ({ transport, port }: { readonly transport: string; readonly port: number }): string =>
  `${transport.toUpperCase()} ${port}`;

function PortsByMachine() {
  const show = useShow();
  const ports = useMemo(() => links.portTable(show), [show]);
  return (
    <Part title={`Ports by machine · ${ports.length}`}>
      <PlainTable
        label="Ports by machine"
        heads={['Machine', 'Port', 'Use', 'For']}
        rows={ports.map((line, at) => ({
          id: String(at),
          cells: [
            line.machine.name,
            <code className={line.clash ? 'text-error' : ''}>{portWords(line)}</code>,
            <span className="text-mute">{line.clash ? 'heard by two: clash' : uses[line.use]}</span>,
            line.owner.id === line.machine.id ? line.service : `${line.service} of ${line.owner.name}`,
          ],
        }))}
      />
    </Part>
  );
}

function FirewallRules() {
  const show = useShow();
  const rules = useMemo(() => links.firewallRules(show), [show]);
  return (
    <Part title={`What firewalls must let through · ${rules.length}`}>
      <PlainTable
        label="Firewall rules"
        heads={['Computer', 'Program', 'Direction', 'Port', 'With']}
        rows={rules.map((rule, at) => ({
          id: String(at),
          cells: [rule.machine.name, rule.program, rule.direction, <code>{portWords(rule)}</code>, rule.peer],
        }))}
      />
    </Part>
  );
}

function SwitchSockets() {
  const show = useShow();
  const { analysis } = useWorkspace();
  const vlans = useMemo(() => (analysis ? cabling.vlanTable(show, analysis.addressing) : []), [show, analysis]);
  return (
    <Part title={`Sockets of managed switches · ${vlans.length}`}>
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
    </Part>
  );
}

function OverTheAir() {
  const show = useShow();
  const { analysis, seen } = useWorkspace();
  const [rate, setRate] = useState<number>(50);
  const air = useMemo(
    () => (analysis ? links.overTheAir(show, links.linkFacts(show, analysis.addressing), seen) : []),
    [show, analysis, seen],
  );
  return (
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
  );
}

const frames = (count: number): string => (count === 1 ? '1 frame' : `${count} frames`);

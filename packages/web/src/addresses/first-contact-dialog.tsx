import { addressing, rig, show as core, type show } from '@deep-patch/core';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Loading } from '../parts/empty.tsx';

/** In which order to set units that come with a fixed address: which alone, which by IPv6, and what the computer needs for it. */
export function FirstContactDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { analysis } = useWorkspace();
  if (!analysis) return <Loading />;
  const groups = addressing.commissioningOrder(show, analysis.addressing);
  const ranges = core.groupBy(groups, ({ ip, prefix }) => rangeOf(ip, prefix));
  return (
    <Dialog title="First contact" onClose={onClose} wide unsaved={false}>
      <p className="mb-4 text-mute">
        Units that leave the factory on one address clash as soon as two of them are on. Set one at a time, then put it
        on the network. Your computer’s adapter changes once for each range.
      </p>
      {groups.length === 0 && <p>Nothing in the rig comes with a fixed address.</p>}
      <ol className="grid gap-6">
        {[...ranges].map(([range, inside]) => (
          <li key={range}>
            <h3 className="text-[13px] font-semibold">
              <code>{range}</code>
            </h3>
            <p className="mb-1 text-[13px] text-mute">
              <Setting setting={inside[0]?.setting} />
            </p>
            <table className="w-full text-[13px]">
              <tbody>
                {inside.flatMap((group) =>
                  group.steps.map((step) => (
                    <tr key={step.device.id} className="border-t border-rule">
                      <td className="w-1/4 py-1">{step.device.name}</td>
                      <td className="w-1/5 py-1">
                        <code>{group.ip}</code>
                      </td>
                      <td className="py-1 text-mute">
                        <How step={step} alike={group.steps.length} />
                      </td>
                      <td className="w-1/5 py-1">
                        becomes <code>{step.becomes ?? 'not placed yet'}</code>
                      </td>
                    </tr>
                  )),
                )}
              </tbody>
            </table>
          </li>
        ))}
      </ol>
    </Dialog>
  );
}

const rangeOf = (ip: string, prefix: number): string =>
  `${addressing.formatIp(addressing.subnetOf(addressing.mustIp(ip), prefix).network)}/${prefix}`;

function Setting({ setting }: { setting: addressing.AdapterSetting | undefined }) {
  if (!setting) return <>There is no free address beside them: switch everything else there off.</>;
  return (
    <>
      Set your adapter to <code className="text-base-content">{setting.ip}</code>, mask{' '}
      {addressing.formatIp(addressing.maskOf(setting.prefix))}, gateway empty.
    </>
  );
}

/** How it is set first, and what has to be set before it. */
function How({ step, alike }: { step: addressing.CommissioningStep; alike: number }) {
  const show = useShow();
  const { waitsFor, device } = step;
  return (
    <>
      <FirstWay step={step} alike={alike} type={core.typeOf(show, device)} />
      {waitsFor.length > 0 && (
        <span className="text-warning">
          {' '}
          · after {waitsFor.map(({ name }) => name).join(', ')}, which {waitsFor.length === 1 ? 'stands' : 'stand'}{' '}
          there until then
        </span>
      )}
    </>
  );
}

function FirstWay({
  step: { how, at },
  alike,
  type,
}: {
  readonly step: addressing.CommissioningStep;
  readonly alike: number;
  readonly type: show.DeviceType | undefined;
}) {
  if (how === 'own_menu') return <>nothing answers at this address: set it {ownWays(type)}</>;
  if (how === 'alone') return <>{alike > 1 ? 'alone, the others off or unplugged' : 'as it is'}</>;
  return (
    <>
      with the others on, at <code>{at}</code>
    </>
  );
}

/** The ways of a type that need no address. */
function ownWays(type: show.DeviceType | undefined): string {
  const ways = (type?.ways ?? []).filter(({ way }) => way === 'menu' || way === 'usb');
  return ways.length > 0 ? `by ${ways.map(rig.wayWords).join(', or by ')}` : 'at itself first';
}

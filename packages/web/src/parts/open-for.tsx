import { show as core } from '@deep-patch/core';
import { Tick } from './typed-fields.tsx';

/** For which kinds of clients access is opened at a unit, where it asks for that (need 5.5). */
export function OpenFor({
  type,
  openFor,
  onChange,
}: {
  readonly type: core.ServiceType | undefined;
  readonly openFor: readonly core.DeviceKind[];
  readonly onChange: (openFor: core.DeviceKind[]) => void;
}) {
  const kinds = type?.needsOpening ?? [];
  if (kinds.length === 0) return null;
  return (
    <fieldset className="flex flex-wrap gap-x-4 gap-y-1 pb-2 text-[13px]">
      <legend className="pb-1 text-xs font-semibold text-mute">Open for</legend>
      {kinds.map((kind) => (
        <Tick
          key={kind}
          size="xs"
          checked={openFor.includes(kind)}
          onTick={(on) => onChange(kinds.filter((each) => (each === kind ? on : openFor.includes(each))))}
        >
          {core.kindWords(kind)}
        </Tick>
      ))}
    </fieldset>
  );
}

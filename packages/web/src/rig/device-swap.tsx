import { rig, type show } from '@deep-patch/core';
import type { SyntheticEvent } from 'react';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { useDraft } from '../parts/drafts.ts';
import { TypedField } from '../parts/typed-fields.tsx';

/** A spare takes the place of the unit: one act, and nothing that was true of the old box counts any more. */
export function DeviceSwap({ device }: { device: show.Device }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const [serial, setSerial] = useDraft(`${showId} spare serial ${device.id}`, '');
  const [mac, setMac] = useDraft(`${showId} spare mac ${device.id}`, '');
  const [firmware, setFirmware] = useDraft(`${showId} spare firmware ${device.id}`, '');
  const read = mac.trim() === '' ? null : rig.readMac(mac);
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (read === undefined) return;
    const spare = { mac: read, serial: serial.trim(), firmware: firmware.trim() || null };
    void save(rig.planSwap(show, device, spare)).then((done) => {
      if (!done) return;
      setSerial('');
      setMac('');
      setFirmware('');
    });
  };
  return (
    <details className="border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">Swap for a spare</summary>
      <form onSubmit={submit} className="grid gap-x-3 pt-2">
        <p className="pb-2 text-[13px] text-mute">
          Name, address, cables and links stay. What was keyed in, copied and measured was another box: all of it is
          open again, and on the bench the spare comes straight from its case.
        </p>
        <div className="grid grid-cols-2 gap-x-3">
          <TypedField label="Its serial number" value={serial} onType={setSerial} look="key" most={200} />
          <TypedField label="Its version" value={firmware} onType={setFirmware} look="key" most={200} />
        </div>
        <TypedField
          label="Its MAC address"
          error={read === undefined ? 'Six pairs of 0-9 and a-f, such as 02:1e:70:00:00:7d' : undefined}
          hint="empty: not known yet"
          value={mac}
          onType={setMac}
          look="key"
        />
        <button type="submit" className="act justify-self-start" disabled={read === undefined}>
          Swap {device.name}
        </button>
      </form>
    </details>
  );
}

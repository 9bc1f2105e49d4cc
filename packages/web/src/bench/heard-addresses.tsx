import type { contract } from '@deep-patch/core';
import { useQuery } from '@tanstack/react-query';
import { api } from '../live/api.ts';
import { useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Empty, Loading } from '../parts/empty.tsx';
import { PlainTable } from '../parts/plain-table.tsx';

/** Every OSC address and MIDI control that was heard, in alphabetical order, with the range of each of its values: ready for mapping. */
export function HeardAddresses({ onClose, forget }: { onClose: () => void; forget: () => Promise<boolean> }) {
  const { showId } = useWorkspace();
  const heard = useQuery({
    queryKey: ['heard', showId],
    queryFn: () => api.get<contract.HeardAddress[]>(`/bench/${showId}/addresses`),
    refetchInterval: 1000,
  });
  const rows = heard.data ?? [];
  return (
    <Dialog title={`Addresses heard · ${rows.length}`} onClose={onClose} wide>
      {heard.isPending && <Loading />}
      {heard.isError && <Empty text="The bench does not answer. It starts again by itself: open this once more." />}
      {heard.isSuccess && rows.length === 0 && (
        <Empty text="No OSC or MIDI message went over the network yet. Move each control once, and it is listed here." />
      )}
      {rows.length > 0 && (
        <>
          <PlainTable
            label="Addresses heard"
            heads={['Address', 'Times', 'Last value', 'Least', 'Greatest']}
            rows={rows.flatMap(linesOf)}
          />
          <button type="button" className="act mt-4" onClick={() => void forget().then(() => heard.refetch())}>
            Clear the list
          </button>
        </>
      )}
    </Dialog>
  );
}

/** A line a value: a control of two axes has two, the second without repeating the address. */
function linesOf({ address, count, values }: contract.HeardAddress) {
  const all = values.length > 0 ? values : [{ last: '', least: null, greatest: null }];
  return all.map(({ last, least, greatest }, at) => ({
    id: `${address} ${at}`,
    cells: [
      at === 0 ? <code key="address">{address}</code> : <span className="pl-4 text-mute">value {at + 1}</span>,
      at === 0 ? count : '',
      <code key="last">{last}</code>,
      least === null ? '' : rounded(least),
      greatest === null ? '' : rounded(greatest),
    ],
  }));
}

const rounded = (value: number): string => String(Math.round(value * 1000) / 1000);

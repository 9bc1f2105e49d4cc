import type { contract } from '@deep-patch/core';
import { useQuery } from '@tanstack/react-query';
import { api, asProblem } from '../live/api.ts';
import { useWorkspace } from '../live/workspace.tsx';

/** The bytes of one frame, layer by layer, each field with what it stands for. */
export function FrameBytes({ frame }: { readonly frame: number }) {
  const { showId } = useWorkspace();
  const { data, error } = useQuery({
    queryKey: ['frame', showId, frame],
    queryFn: () => api.get<contract.FrameAnatomy>(`/bench/${showId}/frames/${frame}`),
    // what went over the wire stays what it was
    staleTime: Infinity,
    retry: false,
  });
  if (error) {
    const { message, detail } = asProblem(error);
    return (
      <p role="alert" className="py-1 text-error">
        {message}. {detail}
      </p>
    );
  }
  if (!data) return <p className="py-1 text-mute">Reading its bytes</p>;
  return (
    <div className="my-1 grid gap-2 border-l-2 border-line pl-3">
      {data.layers.map(({ name, parts }, at) => (
        <table key={`${name} ${at}`} className="w-full table-fixed text-xs">
          <caption className="text-left font-semibold text-primary">
            {name} <span className="font-normal text-mute">from byte {parts[0]?.at}</span>
          </caption>
          <tbody>
            {parts.map((part) => (
              <tr key={part.at} className="align-baseline">
                <th scope="row" className="w-44 text-left font-normal text-mute">
                  {part.name}
                </th>
                <td className="pr-3 wrap-anywhere">{part.value}</td>
                <td className="font-mono wrap-anywhere text-mute">{hexOf(data.hex, part)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </div>
  );
}

const mostBytes = 48;

function hexOf(hex: string, { at, length }: { readonly at: number; readonly length: number }): string {
  const shown = hex.slice(at * 2, (at + Math.min(length, mostBytes)) * 2);
  const more = length > mostBytes ? ` and ${length - mostBytes} more` : '';
  return `${(shown.match(/../g) ?? []).join(' ')}${more}`;
}

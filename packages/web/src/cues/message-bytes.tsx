import { writeOsc } from '@deep-patch/codecs';
import { cues as cueRoom } from '@deep-patch/core';

/** The bytes of a message, and what each of them stands for (OSC 1.0: everything is padded to four bytes). */
export function MessageBytes({ aimed }: { readonly aimed: cueRoom.Aimed }) {
  const osc = cueRoom.oscOf(aimed);
  if (!osc) return null;
  const bytes = writeOsc({ address: osc.address, args: [...osc.args] });
  const padded = (text: string) => (Math.floor(new TextEncoder().encode(text).length / 4) + 1) * 4;
  const parts: [string, number][] = [
    ['address', padded(osc.address)],
    ['types', padded(`,${osc.args.map(({ type }) => type).join('')}`)],
    ...osc.args.flatMap((arg, at): [string, number][] => {
      const name =
        aimed.command?.args.filter(({ name: own }) => !aimed.command?.address.includes(`{${own}}`))[at]?.name ??
        `value ${at + 1}`;
      if (arg.type === 'i' || arg.type === 'f') return [[name, 4]];
      return arg.type === 's' ? [[name, padded(arg.value)]] : [];
    }),
  ];
  let from = 0;
  const cut = parts.map(([name, length]) => {
    const own = bytes.slice(from, from + length);
    from += length;
    return { name, hex: Array.from(own, (byte) => byte.toString(16).padStart(2, '0')).join(' ') };
  });
  return (
    <dl className="grid grid-cols-[5rem_1fr] gap-x-2 gap-y-1 text-xs" aria-label={`${bytes.length} bytes`}>
      {cut.map(({ name, hex }, at) => (
        <div key={at} className="contents">
          <dt className="truncate text-mute">{name}</dt>
          <dd className="font-mono break-words">{hex}</dd>
        </div>
      ))}
    </dl>
  );
}

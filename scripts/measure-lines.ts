/** What was measured, beside what must hold. */
export type Tell = (what: string, value: string, must?: string, holds?: boolean) => void;

interface Line {
  readonly what: string;
  readonly value: string;
  readonly must: string;
  readonly holds: boolean;
}

/** Collects lines and shows them at the end; a line that does not hold fails the run. */
export function measureLines(): { readonly tell: Tell; readonly show: () => void } {
  const lines: Line[] = [];
  return {
    tell: (what, value, must = 'for comparison', holds = true) => void lines.push({ what, value, must, holds }),
    show: () => {
      const width = Math.max(...lines.map(({ what }) => what.length));
      for (const { what, value, must, holds } of lines)
        console.log(`${holds ? 'holds' : 'FAILS'}  ${what.padEnd(width)}  ${value}  (${must})`);
      if (lines.some(({ holds }) => !holds)) process.exitCode = 1;
    },
  };
}

import { Plus, X } from 'lucide-react';
import type { ReactNode } from 'react';

/** A part of the form that folds; what is wrong inside is told on its line. */
export function Section({
  title,
  summary,
  faults = 0,
  open = false,
  children,
}: {
  readonly title: string;
  readonly summary?: string;
  readonly faults?: number;
  readonly open?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <details open={open} className="group rounded-box border border-rule bg-base-100">
      <summary className="flex cursor-pointer items-baseline gap-3 px-3 py-2 font-semibold">
        {title}
        {summary && <span className="truncate text-[13px] font-normal text-mute">{summary}</span>}
        {faults > 0 && <span className="ml-auto text-[13px] font-normal text-error">{faults} to mend</span>}
      </summary>
      <div className="grid gap-3 px-3 pb-3">{children}</div>
    </details>
  );
}

/** Faults below a path. */
export const faultsIn = (issues: ReadonlyMap<string, string>, ...paths: string[]): number =>
  [...issues.keys()].filter((key) => paths.some((path) => key === path || key.startsWith(`${path}.`))).length;

interface RowsProps<Item> {
  /** What one of them is called, such as “socket”. */
  readonly what: string;
  readonly items: readonly Item[];
  readonly path: string;
  readonly issues: ReadonlyMap<string, string>;
  readonly make: () => Item;
  readonly onChange: (items: Item[]) => void;
  /** Each of them is a block of lines. */
  readonly isBlock?: boolean;
  readonly children: (item: Item, patch: (change: Partial<Item>) => void, at: number) => ReactNode;
}

/** A list that grows and shrinks: one line an item, its fault below it. */
export function Rows<Item>({ what, items, path, issues, make, onChange, isBlock = false, children }: RowsProps<Item>) {
  const patch = (at: number) => (change: Partial<Item>) =>
    onChange(items.map((item, n) => (n === at ? { ...item, ...change } : item)));
  return (
    <div className="grid gap-1">
      {items.map((item, at) => (
        <div key={at} className="grid gap-0.5">
          <div className={`flex gap-1.5 ${isBlock ? 'items-start' : 'flex-wrap items-end'}`}>
            {children(item, patch(at), at)}
            <button
              type="button"
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Remove ${what} ${at + 1}`}
              onClick={() => onChange(items.filter((_, n) => n !== at))}
            >
              <X size={13} aria-hidden />
            </button>
          </div>
          <Faults of={issues} at={`${path}.${at}`} />
        </div>
      ))}
      <button type="button" className="act-quiet justify-self-start" onClick={() => onChange([...items, make()])}>
        <Plus size={13} aria-hidden className="inline" /> Add {/^[aeiou]/.test(what) ? 'an' : 'a'} {what}
      </button>
    </div>
  );
}

function Faults({ of, at }: { readonly of: ReadonlyMap<string, string>; readonly at: string }) {
  const own = [...of].filter(([path]) => path === at || path.startsWith(`${at}.`));
  if (own.length === 0) return null;
  return (
    <ul aria-live="polite" className="text-xs text-error">
      {own.map(([path, message]) => (
        <li key={path}>{message}</li>
      ))}
    </ul>
  );
}

interface CellProps {
  /** Which one it is, in full; the words above it are `caption`, none where the line is a sentence. */
  readonly label: string;
  readonly caption?: string;
  readonly value: string;
  readonly onType: (text: string) => void;
  readonly width?: string;
  readonly look?: 'text' | 'key';
  readonly placeholder?: string;
}

const Captioned = ({ caption, children }: { readonly caption: string | undefined; readonly children: ReactNode }) =>
  caption === undefined ? (
    children
  ) : (
    <span className="grid content-start">
      <span aria-hidden className="text-[11px] leading-4 text-mute">
        {caption}
      </span>
      {children}
    </span>
  );

/** A field of a line. */
export const TextCell = ({ label, caption, value, onType, width = 'w-36', look = 'text', placeholder }: CellProps) => (
  <Captioned caption={caption}>
    <input
      aria-label={label}
      placeholder={placeholder}
      className={`field ${width} ${look === 'key' ? 'key-num' : ''}`}
      spellCheck={look === 'text' ? undefined : false}
      value={value}
      onChange={(event) => onType(event.target.value)}
    />
  </Captioned>
);

export const ChoiceCell = ({
  label,
  caption,
  value,
  onChoose,
  options,
  width = 'w-32',
}: {
  readonly label: string;
  readonly caption?: string;
  readonly value: string;
  readonly onChoose: (value: string) => void;
  readonly options: Iterable<readonly [value: string, text: string]>;
  readonly width?: string;
}) => (
  <Captioned caption={caption}>
    <select
      aria-label={label}
      className={`field-select ${width}`}
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      {[...options].map(([key, text]) => (
        <option key={key} value={key}>
          {text}
        </option>
      ))}
    </select>
  </Captioned>
);

/** Texts, one a line. */
export function LinesField({
  label,
  lines,
  onChange,
  fault,
}: {
  readonly label: string;
  readonly lines: readonly string[];
  readonly onChange: (lines: string[]) => void;
  readonly fault?: string | undefined;
}) {
  return (
    <label className="grid content-start gap-1">
      <span className="text-xs font-semibold text-mute">{label}, one a line</span>
      <textarea
        rows={2}
        className="textarea textarea-sm min-h-12 w-full border-line bg-base-100"
        value={lines.join('\n')}
        onChange={(event) => onChange(event.target.value === '' ? [] : event.target.value.split('\n'))}
      />
      {fault && <span className="text-xs text-error">{fault}</span>}
    </label>
  );
}

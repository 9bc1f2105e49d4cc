import { useState } from 'react';

/** Small fields that keep what was typed once they are left, or on Enter. */
export function NumberField({
  label,
  value,
  refuse,
  wrong,
  onKeep,
}: {
  readonly label: string;
  /** What is wrong with a value that is refused. */
  readonly wrong?: string;
  readonly value: number | null;
  readonly refuse?: ((value: number) => boolean) | undefined;
  readonly onKeep: (value: number | null) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const text = typed ?? (value === null ? '' : String(Math.round(value * 1e6) / 1e6));
  const number = text.trim() === '' ? null : Number(text.replace(',', '.'));
  const isWrong = number !== null && (Number.isNaN(number) || refuse?.(number) === true);
  const keep = () => {
    if (typed === undefined) return;
    setTyped(undefined);
    if (!isWrong) onKeep(number);
  };
  return (
    <label className="grid min-w-0 gap-0.5 text-xs text-mute">
      <span className="truncate">{label}</span>
      <input
        className={`field key-num h-7 ${isWrong ? 'border-error' : ''}`}
        inputMode="decimal"
        value={text}
        aria-invalid={isWrong}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
      {isWrong && <span className="text-error">{Number.isNaN(number) ? 'a number' : (wrong ?? 'not this value')}</span>}
    </label>
  );
}

export function TextField({
  label,
  value,
  onKeep,
}: {
  readonly label: string;
  readonly value: string;
  readonly onKeep: (value: string) => void;
}) {
  const [typed, setTyped] = useState<string>();
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <input
        className="field h-7"
        value={typed ?? value}
        maxLength={200}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => {
          if (typed !== undefined) onKeep(typed);
          setTyped(undefined);
        }}
      />
    </label>
  );
}

export function ChoiceField({
  label,
  value,
  options,
  onKeep,
}: {
  readonly label: string;
  readonly value: string;
  readonly options: readonly (readonly [string, string])[];
  readonly onKeep: (value: string) => void;
}) {
  return (
    <label className="grid gap-0.5 text-xs text-mute">
      {label}
      <select className="field-select h-7" value={value} onChange={(event) => onKeep(event.target.value)}>
        {!options.some(([key]) => key === value) && <option value={value}>choose…</option>}
        {options.map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

import { useState } from 'react';

interface Shown {
  id?: string;
  label?: string;
  unit?: string;
  min?: number;
  disabled?: boolean;
  className?: string;
}

/** A number that keeps what is typed until it is one; `onChange` hears only of finite numbers. */
export function DecimalField({
  value,
  onChange,
  ...rest
}: Shown & { value: number; onChange: (value: number) => void }) {
  return <Decimal {...rest} value={value} onChange={(next) => next !== undefined && onChange(next)} />;
}

/** The same where an empty field means that there is no such number. */
export function OptionalDecimalField(
  props: Shown & { value: number | undefined; placeholder: string; onChange: (value: number | undefined) => void },
) {
  return <Decimal {...props} />;
}

function Decimal({
  id,
  label,
  value,
  onChange,
  placeholder,
  unit,
  min,
  disabled = false,
  className = '',
}: Shown & { value: number | undefined; placeholder?: string; onChange: (value: number | undefined) => void }) {
  const own = value === undefined ? '' : String(value);
  const [text, setText] = useState(own);
  const read = (typed: string): number | undefined =>
    typed.trim() === '' ? undefined : Number(typed.trim().replace('−', '-'));
  const isValid = (number: number | undefined): boolean =>
    number === undefined ? placeholder !== undefined : Number.isFinite(number) && (min === undefined || number >= min);
  const parsed = read(text);
  const valid = isValid(parsed);
  return (
    <span className={`relative block ${className}`}>
      <input
        id={id}
        aria-label={label}
        inputMode="decimal"
        placeholder={placeholder}
        value={valid && parsed !== value ? own : text}
        disabled={disabled}
        aria-invalid={!valid}
        onChange={(event) => {
          setText(event.target.value);
          const next = read(event.target.value);
          if (isValid(next)) onChange(next);
        }}
        onBlur={() => setText(own)}
        className={`input px-1.5 text-[13px] ${unit ? 'pr-6' : ''}`}
      />
      {unit && (
        <span className="pointer-events-none absolute top-1/2 right-2 -translate-y-1/2 text-note text-slate">
          {unit}
        </span>
      )}
    </span>
  );
}

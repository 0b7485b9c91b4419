import { useState } from 'react';

/** A number that keeps what is typed until it is one; `onChange` hears only of finite numbers. */
export function DecimalField({
  id,
  label,
  value,
  onChange,
  unit,
  min,
  disabled = false,
  className = '',
}: {
  id?: string;
  label?: string;
  value: number;
  onChange: (value: number) => void;
  unit?: string;
  min?: number;
  disabled?: boolean;
  className?: string;
}) {
  const [text, setText] = useState(String(value));
  const parsed = text.trim() === '' ? NaN : Number(text.replace('−', '-'));
  const valid = Number.isFinite(parsed) && (min === undefined || parsed >= min);
  const shown = valid && parsed !== value ? String(value) : text;
  return (
    <span className={`relative block ${className}`}>
      <input
        id={id}
        aria-label={label}
        inputMode="decimal"
        value={shown}
        disabled={disabled}
        aria-invalid={!valid}
        onChange={(event) => {
          setText(event.target.value);
          const next = event.target.value.trim() === '' ? NaN : Number(event.target.value.replace('−', '-'));
          if (Number.isFinite(next) && (min === undefined || next >= min)) onChange(next);
        }}
        onBlur={() => setText(String(value))}
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

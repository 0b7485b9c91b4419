import { numberIn } from '@nailset/core';
import { useState } from 'react';
import { useTellUnread, useUnreadText } from './unread';

interface Shown {
  id?: string;
  label: string;
  unit?: string;
  min?: number;
  max?: number;
  /** Only whole numbers. */
  whole?: boolean;
  disabled?: boolean;
  className?: string;
}

/** A number that keeps what is typed and says what is wrong with it; `onChange` hears only of numbers that may be. */
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

type Limits = Pick<Shown, 'min' | 'max' | 'whole'>;

/** The number in a text, or what is wrong with it. */
export function readDecimal(text: string, { min = -Infinity, max = Infinity, whole = false }: Limits): number | string {
  const typed = text.trim();
  if (!typed) return 'A number is missing.';
  const number = numberIn(typed);
  if (!Number.isFinite(number)) return `“${typed}” is not a number.`;
  if (number < min) return `At least ${min} is needed.`;
  if (number > max) return `At most ${max} is possible.`;
  return whole && !Number.isInteger(number) ? 'A whole number is needed.' : number;
}

function Decimal({
  id,
  label,
  value,
  onChange,
  placeholder,
  unit,
  min,
  max,
  whole,
  disabled = false,
  className = '',
}: Shown & { value: number | undefined; placeholder?: string; onChange: (value: number | undefined) => void }) {
  const written = value === undefined ? '' : String(value);
  const left = useUnreadText(label);
  const [typed, setTyped] = useState(left ?? written);
  const read = (text: string): number | string | undefined =>
    text.trim() === '' && placeholder !== undefined
      ? undefined
      : readDecimal(text, {
          ...(min === undefined ? {} : { min }),
          ...(max === undefined ? {} : { max }),
          ...(whole === undefined ? {} : { whole }),
        });
  const given = read(typed);
  // A number that was changed elsewhere shows, even over a text that is not understood.
  const [seen, setSeen] = useState(value);
  if (seen !== value) {
    setSeen(value);
    if (given !== value) setTyped(written);
  }
  const problem = typeof given === 'string' ? given : undefined;
  useTellUnread(label, typed, problem);
  return (
    <span className={`relative block ${className}`}>
      <input
        id={id}
        aria-label={id === undefined ? label : undefined}
        // The number keys of some phones have no minus sign.
        inputMode={min !== undefined && min >= 0 ? 'decimal' : 'text'}
        placeholder={placeholder}
        value={typed}
        disabled={disabled}
        aria-invalid={problem !== undefined}
        title={problem}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = read(event.target.value);
          if (typeof next !== 'string') onChange(next);
        }}
        onBlur={() => problem === undefined && setTyped(written)}
        className={`input px-1.5 text-[13px] ${unit ? 'pr-6' : ''}`}
      />
      {unit && <span className="pointer-events-none absolute top-1.5 right-2 text-note text-slate">{unit}</span>}
      {problem && (
        // Takes a line of its own below, and as much room to the left as it needs.
        <span className="relative block h-5">
          <span role="alert" className="absolute top-0.5 right-0 w-max max-w-64 text-note text-brick">
            {problem}
          </span>
        </span>
      )}
    </span>
  );
}

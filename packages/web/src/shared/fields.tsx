import { numberIn } from '@nailset/core';
import { type ReactNode, useState } from 'react';
import { AskFirst } from './AskFirst';
import { type Changed, changed } from './changed';
import { DecimalField } from './DecimalField';
import { Field } from './Field';
import { removeBy } from './focus';
import { useTellUnread, useUnreadText } from './unread';

/** Small inputs that the builder's columns share. */

export function TextField({
  label,
  value,
  maxLength,
  onChange,
  hint,
  error,
  rows,
}: {
  label: string;
  value: string;
  maxLength: number;
  onChange: (value: string) => void;
  hint?: string;
  error?: string | undefined;
  /** More than one line of text. */
  rows?: number;
}) {
  const common = { className: 'input', maxLength, value };
  return (
    <Field label={label} {...(hint ? { hint } : {})} error={error}>
      {(ids) =>
        rows ? (
          <textarea {...ids} {...common} rows={rows} onChange={(event) => onChange(event.target.value)} />
        ) : (
          <input {...ids} {...common} onChange={(event) => onChange(event.target.value)} />
        )
      }
    </Field>
  );
}

/** A text in a row of its own list, its name only for screen readers. */
export function CellText({
  label,
  value,
  maxLength,
  onChange,
  placeholder,
  mono = false,
}: {
  label: string;
  value: string;
  maxLength: number;
  onChange: (value: string) => void;
  placeholder?: string;
  mono?: boolean;
}) {
  return (
    <input
      aria-label={label}
      className={`input px-1.5 py-1 text-[13px] ${mono ? 'font-mono' : ''}`}
      maxLength={maxLength}
      placeholder={placeholder}
      value={value}
      spellCheck={!mono}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

export function NumberField({
  label,
  hint,
  ...rest
}: {
  label: string;
  value: number;
  unit?: string;
  min?: number;
  max?: number;
  whole?: boolean;
  hint?: string;
  onChange: (value: number) => void;
}) {
  return (
    <Field label={label} {...(hint ? { hint } : {})}>
      {({ id }) => <DecimalField id={id} label={label} {...rest} />}
    </Field>
  );
}

/** Numbers in a row, decimal commas understood. It keeps what is typed while it cannot be read, and says why. */
export function NumberListInput({
  id,
  label,
  values,
  disabled = false,
  onChange,
}: {
  id?: string;
  label: string;
  values: readonly number[];
  disabled?: boolean;
  onChange: (values: number[]) => void;
}) {
  const left = useUnreadText(label);
  const [typed, setTyped] = useState(left ?? values.join('; '));
  const numbers = readNumbers(typed);
  const problem = typeof numbers === 'string' ? numbers : undefined;
  useTellUnread(label, typed, problem);
  return (
    <>
      <input
        id={id}
        className="input px-1.5 py-1 text-[13px]"
        aria-label={`${label}, separated by semicolons`}
        disabled={disabled}
        value={typed}
        aria-invalid={problem !== undefined}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = readNumbers(event.target.value);
          if (typeof next !== 'string') onChange(next);
        }}
      />
      {problem && (
        <span role="alert" className="text-note text-brick">
          {problem}
        </span>
      )}
    </>
  );
}

/** The numbers of a list with semicolons or blanks between them, or what is wrong with it. */
export function readNumbers(text: string): number[] | string {
  const pieces = text.split(/[;\s]+/).filter(Boolean);
  if (pieces.length === 0) return 'Numbers are missing.';
  if (pieces.length > 100) return 'At most 100 numbers are possible.';
  const numbers = pieces.map(numberIn);
  const bad = pieces[numbers.findIndex((number) => !Number.isFinite(number))];
  return bad === undefined ? numbers : `“${bad}” is not a number; semicolons stand between numbers.`;
}

/** What a part gives. */
export function PointsField({ points, onChange }: { points: number; onChange: (points: number) => void }) {
  return <NumberField label="Points" min={0} max={100} value={points} onChange={onChange} />;
}

export function SelectField<Value extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: Value;
  options: Readonly<Record<Value, string>>;
  onChange: (value: Value) => void;
}) {
  return (
    <Field label={label}>
      {(ids) => (
        <select
          {...ids}
          className="input px-1.5"
          value={value}
          onChange={(event) => onChange(event.target.value as Value)}
        >
          {(Object.entries(options) as [Value, string][]).map(([name, words]) => (
            <option key={name} value={name}>
              {words}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

export function CheckField({
  label,
  checked,
  onChange,
}: {
  label: ReactNode;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="flex items-baseline gap-2 text-[13px]">
      <input
        type="checkbox"
        className="accent-petrol"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  );
}

/** Takes an entry out; with `ask` it says first what goes. */
export function RemoveButton({ label, onClick, ask }: { label: string; onClick: () => void; ask?: string }) {
  const button = (
    <button
      type="button"
      aria-label={label}
      data-removes=""
      className="min-h-6 min-w-6 self-center text-slate hover:text-brick disabled:invisible"
      onClick={ask === undefined ? (event) => removeBy(event.currentTarget, onClick) : undefined}
    >
      ×
    </button>
  );
  if (ask === undefined) return button;
  return (
    <AskFirst title={`${label}?`} description={ask} action="Remove" onDo={onClick}>
      {button}
    </AskFirst>
  );
}

/** The list with one entry changed. */
export const changedAt = <Of extends object>(list: readonly Of[], index: number, change: Changed<Of>): Of[] =>
  list.map((entry, k) => (k === index ? changed(entry, change) : entry));

/** The list without one entry. */
export const without = <Of,>(list: readonly Of[], index: number): Of[] => list.filter((_, k) => k !== index);

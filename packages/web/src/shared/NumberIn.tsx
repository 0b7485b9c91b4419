import { decimalIn, numberIn } from '@nailset/core';
import { useState } from 'react';

/** A number within a line of words. What is none stays in its field and says so; where it may be left empty, it shows what that gives. */
export function NumberIn({
  words,
  label,
  unit,
  value,
  empty,
  isFine,
  onChange,
}: {
  words: string;
  label: string;
  unit?: string;
  value: number | null;
  /** What an empty field gives; without it an empty field is none. */
  empty?: string;
  isFine: (value: number) => boolean;
  onChange: (value: number | null) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const read = (text: string): number | null | undefined => {
    if (text.trim() === '') return empty === undefined ? undefined : null;
    return decimalIn(text) !== undefined && isFine(numberIn(text)) ? numberIn(text) : undefined;
  };
  const isBad = typed !== undefined && read(typed) === undefined;
  // What was typed stays as it is for as long as it says what the value is.
  const shown = typed !== undefined && (isBad || read(typed) === value) ? typed : (value ?? '').toString();
  return (
    <label>
      {words}{' '}
      <input
        aria-label={label}
        aria-invalid={isBad}
        className="input inline-block w-[54px] px-1.5 py-0.5 text-[13px]"
        placeholder={empty ?? ''}
        value={shown}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = read(event.target.value);
          if (next !== undefined) onChange(next);
        }}
      />
      {unit && ` ${unit}`}
      {isBad && <span className="ml-1 text-brick">no such number</span>}
    </label>
  );
}

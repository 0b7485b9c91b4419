import { formatNumber } from '@nailset/core';
import { useState } from 'react';
import { isDecimal } from '../loop/settings';

/** For how long responses are shown, in seconds; left empty, for as long as the systems take. */
export function TimeField({
  time,
  auto,
  onChange,
}: {
  time: number | null;
  /** What an empty field gives. */
  auto: number;
  onChange: (time: number | null) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const value = (text: string) => (isDecimal(text) ? Number(text.replace(',', '.')) : NaN);
  const isBad = typed !== undefined && typed.trim() !== '' && !(value(typed) > 0 && value(typed) <= 1e9);
  const own = time === null ? '' : String(time);
  return (
    <label>
      for{' '}
      <input
        aria-label="Time shown, in seconds"
        aria-invalid={isBad}
        title={isBad ? 'A time is a number above 0.' : 'Empty: as long as the systems take'}
        inputMode="decimal"
        className="input inline-block w-[64px] px-1.5 py-0.5 text-[13px]"
        placeholder={formatNumber(auto)}
        value={isBad || (typed !== undefined && (typed.trim() === '' ? null : value(typed)) === time) ? typed : own}
        onChange={(event) => {
          const text = event.target.value;
          setTyped(text);
          if (text.trim() === '') onChange(null);
          else if (value(text) > 0 && value(text) <= 1e9) onChange(value(text));
        }}
      />{' '}
      s{isBad && <span className="ml-1 text-brick">a number above 0</span>}
    </label>
  );
}

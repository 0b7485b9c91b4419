import { must } from '@nailset/core';
import { useRef, useState } from 'react';
import { Field } from '../shared/Field';
import { dayAndTime, toLocalInputs, zoneAt } from '../shared/time';

/** Years that are typed on the way to a year are no due dates. */
const isYear = (date: string): boolean => /^[2-9]\d{3}-/.test(date);

/** How a date is spoken of. */
const words = {
  due: { label: 'Due', none: 'no due date', hint: 'Takes effect at once.', is: 'due', missing: 'there is no due date' },
  visible: {
    label: 'Visible',
    none: 'once published',
    hint: 'Takes effect at once.',
    is: 'visible from',
    missing: 'it is visible',
  },
} as const;

/**
 * A date of an exercise, in the reader's zone, which stands beside it. Taking it away is a choice of its own: a date
 * that is half typed stays in its fields and changes nothing.
 */
export function DueField({
  which = 'due',
  dueAt,
  disabled,
  none = words[which].none,
  onDue,
}: {
  which?: keyof typeof words;
  dueAt: string | null;
  disabled: boolean;
  /** For no date. */
  none?: string;
  onDue: (dueAt: string | null) => void;
}) {
  const { label, hint: noneHint, is, missing } = words[which];
  const [dated, setDated] = useState(dueAt !== null);
  const [half, setHalf] = useState(false);
  const fields = useRef<HTMLDivElement>(null);
  const start = toLocalInputs(dueAt);
  const take = () => {
    const [date, time] = Array.from(must(fields.current).querySelectorAll('input'), (input) => input.value) as [
      string,
      string,
    ];
    const whole = isYear(date) && time !== '';
    setHalf(!whole);
    if (!whole) return;
    const next = new Date(`${date}T${time}`).toISOString();
    if (next !== dueAt) onDue(next);
  };
  const hint = !dated
    ? noneHint
    : dueAt === null
      ? `Pick a day and a time, ${zoneAt(null)}.`
      : `${is[0]?.toUpperCase()}${is.slice(1)} ${dayAndTime(dueAt)}.`;
  return (
    <Field
      label={label}
      hint={hint}
      error={
        half
          ? `This is no whole date yet; ${dueAt === null ? missing : `still ${is} ${dayAndTime(dueAt)}`}.`
          : undefined
      }
    >
      {(ids) => (
        <div className="grid gap-1">
          <select
            {...ids}
            className="input px-1.5"
            disabled={disabled}
            value={dated ? 'on' : 'none'}
            onChange={(event) => {
              const on = event.target.value === 'on';
              setDated(on);
              setHalf(false);
              if (!on && dueAt !== null) onDue(null);
            }}
          >
            <option value="none">{none}</option>
            <option value="on">on a day</option>
          </select>
          {dated && (
            <div ref={fields} className="flex flex-wrap gap-1">
              <input
                type="date"
                aria-label={`${label} day`}
                className="input flex-[1.5] basis-[8.5rem] px-1.5 text-[13px]"
                disabled={disabled}
                defaultValue={start.date}
                onBlur={take}
              />
              <input
                type="time"
                aria-label={`${label} time`}
                className="input flex-1 basis-[6.5rem] px-1.5 text-[13px]"
                disabled={disabled}
                defaultValue={start.time || '18:00'}
                onBlur={take}
              />
            </div>
          )}
        </div>
      )}
    </Field>
  );
}

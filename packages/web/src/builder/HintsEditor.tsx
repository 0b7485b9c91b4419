import type { Hint, Part } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';
import { errorOf } from '../kinds/fields/editor';
import { changedAt, NumberField, RemoveButton, TextField, without } from '../shared/fields';

const most = 3;

/** Hints of a part, in the order in which students get them. */
export function HintsEditor({
  hints = [],
  findings,
  onChange,
}: {
  hints: Part['hints'];
  findings: readonly Finding[];
  onChange: (hints: Hint[]) => void;
}) {
  return (
    <section aria-label="Hints" className="grid gap-2">
      {hints.map(({ text, cost }, k) => (
        <div key={k} className="grid grid-cols-[1fr_88px_auto] items-start gap-2">
          <TextField
            label={`Hint ${k + 1}`}
            rows={2}
            maxLength={1000}
            value={text}
            error={errorOf(findings, `hints/${k}`)}
            onChange={(next) => onChange(changedAt(hints, k, { text: next }))}
          />
          <NumberField
            label="Costs points"
            min={0}
            max={100}
            value={cost}
            onChange={(next) => onChange(changedAt(hints, k, { cost: next }))}
          />
          <div className="pt-6">
            <RemoveButton label={`hint ${k + 1}`} onClick={() => onChange(without(hints, k))} />
          </div>
        </div>
      ))}
      {hints.length < most && (
        <button
          type="button"
          className="justify-self-start text-[13px] font-medium text-petrol hover:underline"
          onClick={() => onChange([...hints, { text: '', cost: 0 }])}
        >
          Add a hint
        </button>
      )}
    </section>
  );
}

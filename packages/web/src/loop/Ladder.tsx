import type { Settings } from '@nailset/core';
import { memo, useCallback, useEffect, useRef } from 'react';
import { Formula } from '../shared/Formula';
import { useLatest } from '../shared/useLatest';
import type { Work, WorkAction } from './action';
import type { Knob } from './knob';
import { isDecimal } from './settings';

/** For the plot above a ladder: on a phone it stays in view while a thumb is on the rungs. */
export const inView = '@max-[620px]:sticky @max-[620px]:top-0 @max-[620px]:z-[5] @max-[620px]:bg-paper';

/** What the student sets, with fine and coarse rungs down and up, and typed entry. */
export function Ladder({
  part,
  knobs,
  settings,
  chosen,
  dispatch,
  onRemove,
}: {
  part: string;
  knobs: readonly Knob[];
  settings: Settings;
  chosen: string;
  dispatch: (action: WorkAction) => void;
  /** Takes out what may be left out. */
  onRemove?: (name: string) => void;
}) {
  const latest = useLatest(onRemove);
  const remove = useCallback((name: string) => latest.current?.(name), [latest]);
  const present = knobs.some(({ name }) => name === chosen) ? chosen : knobs[0]?.name;
  return (
    <div
      className={`grid gap-x-3.5 gap-y-3 ${
        knobs.length > 3
          ? '@min-[620px]:grid-cols-[repeat(auto-fit,minmax(220px,1fr))]'
          : '@min-[620px]:auto-cols-fr @min-[620px]:grid-flow-col'
      }`}
    >
      {knobs.map((knob, index) => (
        <Step
          key={knob.name}
          {...{ part, knob, index, dispatch }}
          text={settings[knob.name] ?? '0'}
          isPresent={knob.name === present}
          isChosen={knob.name === chosen}
          onRemove={knob.optional && onRemove ? remove : undefined}
        />
      ))}
    </div>
  );
}

/** One gain with its rungs; those that are not being moved stay as they are. */
const Step = memo(function Step({
  part,
  knob,
  index,
  text,
  isPresent,
  isChosen,
  dispatch,
  onRemove,
}: {
  part: string;
  knob: Knob;
  index: number;
  text: string;
  isPresent: boolean;
  isChosen: boolean;
  dispatch: (action: WorkAction) => void;
  onRemove: ((name: string) => void) | undefined;
}) {
  const { name, latex, unit, fine, coarse } = knob;
  return (
    <div
      role="group"
      aria-label={`Gain ${name}`}
      data-gain={name}
      className={`border-t-2 pt-1 ${isPresent ? 'border-petrol' : 'border-ink/60'}`}
      onFocusCapture={() => !isChosen && dispatch({ do: 'choose', knob: name })}
    >
      <div className="flex items-baseline justify-between text-note text-slate">
        <span>
          <Formula latex={latex} className="text-[16px] text-ink" /> {unit && `in ${unit}`}
        </span>
        <span>
          {index < 9 && `key ${index + 1} · `}steps {fine}, {coarse}
          {onRemove && (
            <button type="button" className="link ml-2" aria-label={`Remove ${name}`} onClick={() => onRemove(name)}>
              ×
            </button>
          )}
        </span>
      </div>
      <div className="mt-1 flex gap-1">
        <Rung by={-coarse} {...{ part, knob, dispatch }} />
        <Rung by={-fine} {...{ part, knob, dispatch }} />
        <Typed {...{ part, name, text, dispatch }} negative={(knob.low ?? -1) < 0} />
        <Rung by={fine} {...{ part, knob, dispatch }} />
        <Rung by={coarse} {...{ part, knob, dispatch }} />
      </div>
    </div>
  );
});

const Typed = memo(function Typed({
  part,
  name,
  text,
  negative,
  dispatch,
}: {
  part: string;
  name: string;
  text: string;
  /** Whether a minus sign may be needed, which the number keys of some phones lack. */
  negative: boolean;
  dispatch: (action: WorkAction) => void;
}) {
  return (
    <input
      aria-label={`${name}, typed`}
      aria-invalid={!isDecimal(text)}
      inputMode={negative ? 'text' : 'decimal'}
      value={text}
      maxLength={40}
      onChange={(event) => dispatch({ do: 'set', part, knob: name, text: event.target.value })}
      className="w-0 min-w-10 flex-1 border-b border-ink bg-transparent text-center text-[18px] font-medium focus-visible:outline-1 aria-invalid:border-brick aria-invalid:text-brick"
    />
  );
});

const repeatAfter = 400;
const repeatEvery = 90;

/** One rung: a click is one step, holding repeats. */
const Rung = memo(function Rung({
  by,
  part,
  knob,
  dispatch,
}: {
  by: number;
  part: string;
  knob: Knob;
  dispatch: (action: WorkAction) => void;
}) {
  const { name } = knob;
  const nudge = () => dispatch({ do: 'nudge', part, knob, by });
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const repeated = useRef(false);
  const release = () => clearTimeout(timer.current);
  useEffect(() => release, []);
  const again = () => {
    repeated.current = true;
    nudge();
    timer.current = setTimeout(again, repeatEvery);
  };
  const size = String(Math.abs(by)).replace(/^0\./, '.');
  return (
    <button
      type="button"
      className="min-w-9 rounded-[3px] border border-rule bg-sheet px-1 py-1 text-note text-slate select-none hover:border-petrol hover:text-petrol active:bg-wash @max-[620px]:min-h-10 @max-[620px]:flex-1"
      onPointerDown={() => {
        repeated.current = false;
        timer.current = setTimeout(again, repeatAfter);
      }}
      onPointerUp={release}
      onPointerLeave={release}
      onPointerCancel={release}
      onClick={() => {
        if (!repeated.current) nudge();
        repeated.current = false;
      }}
    >
      <span aria-hidden="true">
        {by < 0 ? '−' : '+'}
        {size}
      </span>
      <span className="sr-only">
        {name} {by < 0 ? 'down' : 'up'} by {Math.abs(by)}
      </span>
    </button>
  );
});

/** Keys of the ladder: digits choose, ↑ ↓ fine, with Shift coarse. Gives back what to do, if anything. */
export function ladderKey(
  event: KeyboardEvent,
  part: string,
  knobs: readonly Knob[],
  work: Work,
): WorkAction | undefined {
  const knob = knobs.find(({ name }) => name === work.chosen) ?? knobs[0];
  if (!knob) return undefined;
  const index = '123456789'.indexOf(event.key);
  if (index >= 0 && knobs[index]) return { do: 'choose', knob: knobs[index].name };
  const up = event.key === 'ArrowUp';
  if (!up && event.key !== 'ArrowDown') return undefined;
  const size = event.shiftKey ? knob.coarse : knob.fine;
  return { do: 'nudge', part, knob, by: up ? size : -size };
}

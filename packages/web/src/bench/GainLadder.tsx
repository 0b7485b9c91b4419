import { type Gain, type GainsPart, gainsOfForm } from '@nailset/core';
import { useEffect, useRef } from 'react';
import { Formula } from '../shared/Formula';
import { type Work, type WorkAction, isDecimal } from './work';

/** The open gains with fine and coarse rungs down and up, and typed entry. */
export function GainLadder({
  part,
  gains,
  chosen,
  dispatch,
}: {
  part: GainsPart;
  gains: { Kp: string; Ki?: string; Kd?: string };
  chosen: Gain;
  dispatch: (action: WorkAction) => void;
}) {
  const open = gainsOfForm[part.form];
  return (
    <div className="grid gap-x-3.5 gap-y-3 @min-[620px]:grid-flow-col @min-[620px]:auto-cols-fr">
      {open.map((gain, index) => {
        const { fine, coarse } = part.rungs[gain]!;
        const text = gains[gain] ?? '0';
        const nudge = (by: number) => dispatch({ do: 'nudge', part: part.id, gain, by });
        const invalid = !isDecimal(text);
        return (
          <div
            key={gain}
            role="group"
            aria-label={`Gain ${gain}`}
            data-gain={gain}
            className={`border-t-2 pt-1 ${gain === chosen ? 'border-petrol' : 'border-ink/60'}`}
            onFocusCapture={() => gain !== chosen && dispatch({ do: 'choose', gain })}
          >
            <div className="flex items-baseline justify-between text-note text-slate">
              <Formula latex={`K_{${gain[1]}}`} className="text-[16px] text-ink" />
              <span>
                {index + 1} · rung {fine} / {coarse}
              </span>
            </div>
            <div className="mt-1 flex gap-1">
              <Rung by={-coarse} onNudge={nudge} gain={gain} />
              <Rung by={-fine} onNudge={nudge} gain={gain} />
              <input
                aria-label={`${gain}, typed`}
                aria-invalid={invalid}
                inputMode="decimal"
                value={text}
                maxLength={40}
                onChange={(event) => dispatch({ do: 'setGain', part: part.id, gain, text: event.target.value })}
                className="w-0 min-w-10 flex-1 border-b border-ink bg-transparent text-center text-[18px] font-medium focus-visible:outline-1 aria-invalid:border-brick aria-invalid:text-brick"
              />
              <Rung by={fine} onNudge={nudge} gain={gain} />
              <Rung by={coarse} onNudge={nudge} gain={gain} />
            </div>
          </div>
        );
      })}
    </div>
  );
}

const repeatAfter = 400;
const repeatEvery = 90;

/** One rung: a click is one step, holding repeats. */
function Rung({ by, onNudge, gain }: { by: number; onNudge: (by: number) => void; gain: Gain }) {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const repeated = useRef(false);
  const nudge = useRef(onNudge);
  useEffect(() => {
    nudge.current = onNudge;
  });
  const release = () => clearTimeout(timer.current);
  useEffect(() => release, []);
  const again = () => {
    repeated.current = true;
    nudge.current(by);
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
        if (!repeated.current) onNudge(by);
        repeated.current = false;
      }}
    >
      <span aria-hidden="true">
        {by < 0 ? '−' : '+'}
        {size}
      </span>
      <span className="sr-only">
        {gain} {by < 0 ? 'down' : 'up'} by {Math.abs(by)}
      </span>
    </button>
  );
}

/** Keys of the ladder: 1–3 choose, ↑ ↓ fine, with Shift coarse. Gives back what to do, if anything. */
export function ladderKey(event: KeyboardEvent, part: GainsPart, work: Work): WorkAction | undefined {
  const open = gainsOfForm[part.form];
  const gain = open.includes(work.chosen) ? work.chosen : open[0]!;
  const index = ['1', '2', '3'].indexOf(event.key);
  if (index >= 0 && open[index]) return { do: 'choose', gain: open[index] };
  const up = event.key === 'ArrowUp';
  if (!up && event.key !== 'ArrowDown') return undefined;
  const { fine, coarse } = part.rungs[gain]!;
  const size = event.shiftKey ? coarse : fine;
  return { do: 'nudge', part: part.id, gain, by: up ? size : -size };
}

import { nameToLatex, parse, toLatex } from '@nailset/core';
import { isNamed, moveWords } from '@nailset/core/diagrams';
import { Formula } from '../shared/Formula';
import type { LedgerLine } from './useLedger';

/** The steps made so far, one a line with its formula; a line is gone back to by choosing it. */
export function LedgerList({
  lines,
  at,
  onGo,
}: {
  lines: readonly LedgerLine[];
  /** How many steps are shown as made. */
  at: number;
  onGo: (steps: number) => void;
}) {
  const entry = (steps: number, words: string, formula: string | undefined) => (
    <li
      key={steps}
      className={`grid grid-cols-[22px_minmax(0,1fr)] items-baseline gap-x-2 border-b border-grid px-1.5 py-1.5 ${
        steps === at ? 'bg-wash' : steps > at ? 'text-slate' : ''
      }`}
    >
      <span className="text-note text-slate">{steps === 0 ? '' : steps}</span>
      <div className="flex flex-wrap items-baseline gap-x-2">
        <button
          type="button"
          aria-current={steps === at ? 'step' : undefined}
          className="flex-[1_1_160px] text-left [overflow-wrap:anywhere] hover:underline"
          onClick={() => onGo(steps)}
        >
          {words}
        </button>
        {formula && <Formula latex={formula} className="max-w-full overflow-x-auto overflow-y-hidden py-0.5" />}
      </div>
    </li>
  );
  return (
    <ol aria-label="Ledger" className="border-t border-rule">
      {entry(0, 'The diagram as given', undefined)}
      {lines.map(({ before, move, step }, k) => {
        const gain = step.gain ?? move.gain;
        const name = isNamed(move.makes) && gain !== undefined ? `${nameToLatex(move.makes)}:\\;` : '';
        return entry(k + 1, moveWords(before, move), gain === undefined ? undefined : `${name}${latexOf(gain)}`);
      })}
    </ol>
  );
}

function latexOf(gain: string): string {
  try {
    return toLatex(parse(gain));
  } catch {
    return gain;
  }
}

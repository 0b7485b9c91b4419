import { formatNumber, type Measures, withUnit } from '@nailset/core';
import type { PaneProps } from './panes';

const columns: readonly { head: string; unit: string; of: (measures: Measures) => number | null }[] = [
  { head: 'final value', unit: '', of: ({ finalValue }) => finalValue },
  { head: 'rise 10–90 %', unit: 's', of: ({ riseTime }) => riseTime },
  { head: 'settles, 2 %', unit: 's', of: ({ settlingTime }) => settlingTime },
  { head: 'overshoot', unit: '%', of: ({ overshootPercent }) => overshootPercent },
  { head: 'peak', unit: '', of: ({ peakValue }) => peakValue },
  { head: 'at', unit: 's', of: ({ peakTime }) => peakTime },
];

/** What is read off the unit step response of every system, each compared with the chosen one. */
export function MeasuresPane({ drawn, chosen }: Pick<PaneProps, 'drawn' | 'chosen'>) {
  const own = chosen?.facts.measures;
  return (
    <section aria-label="Measures of the step response" tabIndex={0} className="overflow-x-auto">
      <table className="w-full text-right text-[13px]">
        <thead className="text-slate">
          <tr>
            <th className="caption py-1 text-left">Step measures</th>
            {columns.map(({ head }) => (
              <th key={head} className="px-2 py-1 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {drawn.map(({ id, label, facts: { measures, stable }, stroke }) => (
            <tr key={id} className="border-t border-grid">
              <th scope="row" className="py-1 text-left font-medium">
                <svg width="26" height="8" className="mr-2 inline" aria-hidden="true">
                  <path d="M0 4H26" className={stroke.className} strokeWidth="2.2" strokeDasharray={stroke.dash} />
                </svg>
                {label}
              </th>
              {measures?.stable ? (
                columns.map(({ head, unit, of }) => (
                  <td key={head} className="px-2 py-1 whitespace-nowrap">
                    <Measure value={of(measures)} unit={unit} against={id === chosen?.id || !own ? null : of(own)} />
                  </td>
                ))
              ) : (
                <td colSpan={columns.length} className="px-2 py-1 text-left text-slate">
                  {stable ? 'no step response' : 'not stable: it does not settle'}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Measure({ value, unit, against }: { value: number | null; unit: string; against: number | null }) {
  if (value === null) return '–';
  const change = against ? (100 * (value - against)) / Math.abs(against) : NaN;
  return (
    <>
      {withUnit(Number(value.toPrecision(4)), unit)}
      {Number.isFinite(change) && Math.abs(change) >= 0.5 && (
        <span className="ml-1 text-slate">
          {change > 0 ? '+' : '−'}
          {formatNumber(Number(Math.abs(change).toPrecision(2)))} %
        </span>
      )}
    </>
  );
}

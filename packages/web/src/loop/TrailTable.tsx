import { type Measures, type Trail, withUnit } from '@nailset/core';
import { memo, useState } from 'react';
import type { WorkAction } from './action';
import type { Knob } from './knob';

/** A stop of the trail with what it showed. */
export interface TrailRow {
  readonly stop: Trail[number];
  readonly index: number;
  readonly current: boolean;
  readonly held: string;
  readonly measures?: Measures;
}

const newest = 3;

/** The stops made so far, the newest last: take one back, pin it for comparison, name it. */
export function TrailTable({
  part,
  knobs,
  rows,
  dispatch,
}: {
  part: string;
  knobs: readonly Knob[];
  rows: readonly TrailRow[];
  dispatch: (action: WorkAction) => void;
}) {
  const [all, setAll] = useState(false);
  const last = rows.length - newest;
  const shown = all
    ? rows
    : rows.filter(
        (row, k) => k === 0 || k >= last || row.stop.pinned === true || row.stop.name !== undefined || row.current,
      );
  if (rows.length === 0)
    return <p className="text-note text-slate">The trail of your stops appears here as you nudge.</p>;
  const hasMeasures = rows.some(({ measures }) => measures);
  return (
    <div className={`relative overflow-x-auto ${all ? 'max-h-56 overflow-y-auto' : ''}`}>
      <table className="w-full text-right text-[13px] whitespace-nowrap">
        <thead className="text-[11px] text-slate">
          <tr className="border-b border-rule">
            <th className="py-1 text-left font-normal">
              Trail{' '}
              {rows.length > shown.length || all ? (
                <button type="button" className="link" onClick={() => setAll(!all)}>
                  {all ? 'short' : `all ${rows.length}`}
                </button>
              ) : null}
            </th>
            {knobs.map(({ name }) => (
              <th key={name} className="px-2 font-normal">
                {name}
              </th>
            ))}
            {hasMeasures && (
              <>
                <th className="px-2 font-normal">rise</th>
                <th className="px-2 font-normal">overshoot</th>
                <th className="px-2 font-normal">settling</th>
              </>
            )}
            <th className="px-2 font-normal">{hasMeasures ? 'nails' : 'misfit'}</th>
            <th className="px-1 font-normal">pin</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <Row key={row.index} row={row} part={part} knobs={knobs} hasMeasures={hasMeasures} dispatch={dispatch} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

const Row = memo(
  function Row({
    row: { stop, index, current, measures, held },
    part,
    knobs,
    hasMeasures,
    dispatch,
  }: {
    row: TrailRow;
    part: string;
    knobs: readonly Knob[];
    hasMeasures: boolean;
    dispatch: (action: WorkAction) => void;
  }) {
    const short = (value: number | null | undefined, unit: string) =>
      value === null || value === undefined ? '–' : withUnit(value, unit);
    const name = stop.name ?? (index === 0 ? 'first' : '');
    return (
      <tr className={`border-b border-grid ${current ? 'bg-wash' : ''}`}>
        <td className="py-0.5 text-left">
          {current ? (
            <span className="mr-1">{index + 1} now</span>
          ) : (
            <button
              type="button"
              className="link mr-1"
              onClick={() => dispatch({ do: 'restore', part, index })}
              aria-label={`${index + 1} back: take the gains of this stop`}
            >
              {index + 1} back
            </button>
          )}
          <StopName
            key={name}
            name={name}
            index={index}
            onName={(next) => dispatch({ do: 'name', part, index, name: next })}
          />
        </td>
        {knobs.map((knob) => (
          <td key={knob.name} className="px-2">
            {stop.gains[knob.name]?.replace('-', '−')}
          </td>
        ))}
        {hasMeasures && (
          <>
            <td className="px-2">{short(measures?.riseTime, 's')}</td>
            <td className="px-2">{short(measures?.overshootPercent, '%')}</td>
            <td className="px-2">{short(measures?.settlingTime, 's')}</td>
          </>
        )}
        <td className="px-2 whitespace-nowrap">{held}</td>
        <td className="px-1">
          <input
            type="checkbox"
            aria-label={`Pin stop ${index + 1}`}
            className="accent-copper"
            checked={stop.pinned ?? false}
            onChange={() => dispatch({ do: 'pin', part, index })}
          />
        </td>
      </tr>
    );
  },
  // Rows are put together anew on every nudge; most of them say the same as before.
  (a, b) =>
    a.knobs === b.knobs &&
    a.part === b.part &&
    a.hasMeasures === b.hasMeasures &&
    (Object.keys(b.row) as (keyof TrailRow)[]).every((name) => a.row[name] === b.row[name]),
);

function StopName({ name, index, onName }: { name: string; index: number; onName: (name: string) => void }) {
  return (
    <input
      aria-label={`Name of stop ${index + 1}`}
      className="w-16 border-b border-transparent bg-transparent text-slate hover:border-rule focus-visible:border-petrol focus-visible:outline-none"
      maxLength={30}
      defaultValue={name}
      placeholder="name"
      onBlur={(event) => event.target.value !== name && onName(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

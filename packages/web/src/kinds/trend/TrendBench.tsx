import { type Bench, cellOf, type StudentPart, type Trend } from '@nailset/core';
import type { WorkAction } from '../../loop/action';

const ways: readonly { trend: Trend; sign: string; words: string }[] = [
  { trend: 'up', sign: '↑', words: 'goes up' },
  { trend: 'same', sign: '=', words: 'stays' },
  { trend: 'down', sign: '↓', words: 'goes down' },
];

/** A table to fill in: what each quantity does when one thing is changed. */
export function TrendBench({
  part,
  cells,
  solution,
  dispatch,
}: {
  part: Extract<StudentPart, { kind: 'trend' }>;
  cells: Readonly<Record<string, Trend>>;
  solution: Bench['solutions'][number] | undefined;
  dispatch: (action: WorkAction) => void;
}) {
  return (
    <div className="max-w-3xl overflow-x-auto">
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-ink">
            <td />
            {part.changes.map(({ id, label }) => (
              <th key={id} scope="col" className="px-3 py-2 font-medium">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {part.rows.map((row) => (
            <tr key={row.id} className="border-b border-rule">
              <th scope="row" className="py-2.5 pr-4 font-normal">
                {row.label}
              </th>
              {part.changes.map((change) => {
                const cell = cellOf(row.id, change.id);
                return (
                  <td key={change.id} className="px-3">
                    <span role="radiogroup" aria-label={`${row.label}, ${change.label}`} className="inline-flex">
                      {ways.map(({ trend, sign, words }) => (
                        <label
                          key={trend}
                          title={words}
                          className="grid size-9 cursor-pointer place-items-center border border-rule not-first:border-l-0 text-[16px] has-checked:border-petrol has-checked:bg-petrol has-checked:text-white has-focus-visible:outline-2 has-focus-visible:outline-petrol"
                        >
                          <input
                            type="radio"
                            name={`${part.id} ${cell}`}
                            aria-label={words}
                            className="sr-only"
                            checked={cells[cell] === trend}
                            onChange={() => dispatch({ do: 'fill', part: part.id, cell, trend })}
                          />
                          <span aria-hidden="true">{sign}</span>
                        </label>
                      ))}
                    </span>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {solution && <p className="mt-4 border-l-2 border-moss py-1 pl-4">Right: {solution.text}.</p>}
    </div>
  );
}

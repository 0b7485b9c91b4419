import { formatNumber } from '@nailset/core';
import { memo, type ReactNode, useCallback, useId, useRef, useState } from 'react';
import { useLatest } from '../shared/useLatest';

/** What a plot shows, in numbers. */
export interface PlotTable {
  readonly heads: readonly string[];
  readonly rows: readonly (readonly (string | number | null)[])[];
}

/** Title, switches and the ways out of a plot: as a table, SVG, PNG and CSV. */
export function PlotFrame({
  title,
  short,
  tools,
  onFit,
  table,
  className,
  children,
}: {
  title: string;
  /** What is written where room is scarce; the title is there for screen readers and files. */
  short?: string | undefined;
  tools?: ReactNode;
  onFit?: () => void;
  /** Worked out when it is asked for. */
  table: () => PlotTable;
  /** Of the table that stands in the plot's place. */
  className: string;
  children: ReactNode;
}) {
  const [asTable, setAsTable] = useState(false);
  const id = useId();
  const place = useRef<HTMLDivElement>(null);
  const latest = useLatest(table);
  const save = useCallback(
    async (kind: string) => {
      // What stands there now, however long the rest takes to load.
      const { heads, rows } = latest.current();
      const svg = place.current?.querySelector('svg');
      const { savePlot, saveTable } = await import('./savePlot');
      if (kind === 'csv') saveTable(heads, rows, title);
      else if (svg) await savePlot(svg, title, kind === 'svg' ? 'svg' : 'png');
    },
    [title, latest],
  );
  return (
    <figure className="isolate min-w-0" aria-labelledby={id}>
      <figcaption className="mb-1 flex flex-wrap items-baseline justify-between gap-x-3">
        <span id={id} className={short ? 'sr-only' : 'caption'}>
          {title}
        </span>
        {short && (
          <span aria-hidden="true" className="caption">
            {short}
          </span>
        )}
        <span className="flex flex-wrap items-baseline gap-x-2 text-[13px] text-slate">
          {tools}
          {onFit && (
            <button type="button" className="link" title="The axes hold still until this is pressed." onClick={onFit}>
              Fit
            </button>
          )}
          <WaysOut title={title} asTable={asTable} onTable={setAsTable} onSave={(kind) => void save(kind)} />
        </span>
      </figcaption>
      {asTable ? <Numbers {...table()} title={title} className={className} /> : <div ref={place}>{children}</div>}
    </figure>
  );
}

/** As a table, or to be kept; these stay as they are while the plot moves. */
const WaysOut = memo(function WaysOut({
  title,
  asTable,
  onTable,
  onSave,
}: {
  title: string;
  asTable: boolean;
  onTable: (asTable: boolean) => void;
  onSave: (kind: string) => void;
}) {
  return (
    <>
      <button type="button" className="link" aria-pressed={asTable} onClick={() => onTable(!asTable)}>
        {asTable ? 'Plot' : 'Table'}
      </button>
      <select
        aria-label={`Save ${title}`}
        className="w-[52px] bg-transparent text-petrol"
        value=""
        onChange={(event) => onSave(event.target.value)}
      >
        <option value="">Save</option>
        <option value="csv">CSV</option>
        {!asTable && <option value="svg">SVG</option>}
        {!asTable && <option value="png">PNG</option>}
      </select>
    </>
  );
});

function Numbers({ heads, rows, title, className }: PlotTable & { title: string; className: string }) {
  return (
    <div
      className={`relative overflow-auto border-t border-rule ${className}`}
      tabIndex={0}
      role="region"
      aria-label={`${title} in numbers`}
    >
      <table className="w-full text-right text-note">
        <thead className="sticky top-0 bg-paper text-slate">
          <tr>
            {heads.map((head) => (
              <th key={head} className="px-2 py-1 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, k) => (
            <tr key={k} className="border-t border-grid">
              {row.map((value, column) => (
                <td key={column} className="px-2 py-0.5">
                  {typeof value === 'number' ? formatNumber(value) : value}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

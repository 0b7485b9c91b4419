import type { Series } from '@nailset/core';
import { useState } from 'react';
import { CellText, changedAt, RemoveButton, without } from '../../shared/fields';
import { FileButton } from '../../shared/FileButton';
import { freeId } from '../../shared/freeId';

/** Measured data from CSV files, to show, to drive a loop, or to be followed. */
export function TablesEditor({
  series,
  disabled,
  onChange,
}: {
  series: readonly Series[];
  disabled: boolean;
  onChange: (series: Series[]) => void;
}) {
  const [problem, setProblem] = useState('');
  const read = async (file: File) => {
    try {
      const { readTable } = await import('../../shared/readTable');
      const table = readTable(await file.text());
      const name = file.name.replace(/\.[^.]*$/, '').slice(0, 60) || 'table';
      const base =
        name
          .toLowerCase()
          .replace(/[^a-z0-9]+/g, '-')
          .replace(/^[^a-z]+|-$/g, '')
          .slice(0, 28) || 'table';
      const id = freeId(
        base,
        series.map((entry) => entry.id),
      );
      onChange([...series, { id, name, ...table }]);
      setProblem('');
    } catch (error) {
      setProblem(`${file.name}: ${(error as Error).message}`);
    }
  };
  return (
    <section aria-label="Measured data">
      <h3 className="label mb-1">Measured data</h3>
      {series.map((entry, index) => (
        <div key={entry.id} className="mb-1 grid grid-cols-[1fr_auto_24px] items-center gap-2 text-[13px]">
          <CellText
            label={`Name of table ${index + 1}`}
            maxLength={60}
            value={entry.name}
            onChange={(name) => name && onChange(changedAt(series, index, { name }))}
          />
          <span className="text-slate">
            {entry.times.length} rows to {entry.times[entry.times.length - 1]} s
          </span>
          {!disabled && (
            <RemoveButton label={`Remove ${entry.name}`} onClick={() => onChange(without(series, index))} />
          )}
        </div>
      ))}
      {problem && (
        <p role="alert" className="text-note text-brick">
          {problem}
        </p>
      )}
      {!disabled && series.length < 4 && (
        <FileButton
          words="Add a table (CSV: time, value)"
          accept=".csv,.txt,.tsv,text/csv"
          onFile={(file) => void read(file)}
        />
      )}
    </section>
  );
}

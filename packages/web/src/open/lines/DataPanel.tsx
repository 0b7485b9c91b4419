import { isOverTime, type Sheet, type SheetData, sheetLimits, type SheetLine } from '@nailset/core';
import { memo, useState } from 'react';
import { FileButton } from '../../shared/FileButton';
import { freeName } from '../sheet/names';
import type { SheetState } from '../sheet/useSheet';

/** Measured tables beside the models, and models fitted to them. */
export const DataPanel = memo(function DataPanel({
  data: tables,
  isFull,
  change,
  sheetNow,
}: {
  data: Sheet['data'];
  /** Whether no line can be added. */
  isFull: boolean;
  change: SheetState['change'];
  sheetNow: () => Sheet;
}) {
  const [said, setSaid] = useState<{ words: string; isBad: boolean }>();
  const take = async (file: File) => {
    try {
      const { dataFrom } = await import('../sheet/measured');
      const data = dataFrom(file.name, await file.text(), sheetLimits.rows);
      // Reading takes a moment, in which the sheet may be changed.
      const others = sheetNow().data.filter(({ name }) => name !== data.name);
      if (others.length >= sheetLimits.data) {
        throw new Error(`A sheet holds ${sheetLimits.data} measured tables; remove one of them first.`);
      }
      setSaid(undefined);
      change({ data: [...others, data] });
    } catch (error) {
      setSaid({ words: `“${file.name}” was not read. ${error instanceof Error ? error.message : ''}`, isBad: true });
    }
  };
  const fit = async (data: SheetData, structure: string) => {
    const { fitted } = await import('../sheet/measured');
    const { drives, lines: before } = sheetNow();
    const [drive] = drives;
    try {
      const { text, words } = fitted(data, structure, drive?.kind === 'step' ? drive.to - drive.from || 1 : 1);
      const line: SheetLine = { name: freeName(before, 'M'), text, drawn: true, panes: 'all' };
      const lines = [...before.filter((each) => each.text.trim()), line];
      setSaid({ words: `${line.name}: ${words}`, isBad: false });
      change({ lines });
    } catch (error) {
      setSaid({ words: error instanceof Error ? error.message : String(error), isBad: true });
    }
  };
  return (
    <section aria-label="Measured data" className="text-note text-slate">
      {tables.map((data) => (
        <p key={data.name} className="flex flex-wrap items-baseline gap-x-3">
          <span className="text-ink">
            <svg width="12" height="8" className="mr-1 inline" aria-hidden="true">
              <circle cx="5" cy="4" r="2.4" className="fill-ink/70" />
            </svg>
            {data.name}
          </span>
          {isOverTime(data) ? `${data.times.length} points` : `${data.omegas.length} frequencies`}
          <FitMenu data={data} isFull={isFull} onFit={(structure) => void fit(data, structure)} />
          <button
            type="button"
            aria-label={`Remove ${data.name}`}
            className="hover:text-brick"
            onClick={() => change((now) => ({ data: now.data.filter((each) => each !== data) }))}
          >
            ×
          </button>
        </p>
      ))}
      <p className="flex flex-wrap items-baseline gap-x-3">
        <FileButton words="Measured data" accept=".csv,.txt,.tsv,text/csv" onFile={(file) => void take(file)} />
        <span role="status" className={said?.isBad ? 'text-brick' : ''}>
          {said?.words}
        </span>
      </p>
    </section>
  );
});

const overTime = [
  'one lag',
  'one lag, dead time',
  'two lags',
  'two lags, dead time',
  'K, ζ, ωn',
  'K, ζ, ωn, dead time',
];
const names: Readonly<Record<string, string>> = {
  'one lag': 'firstOrder',
  'one lag, dead time': 'firstOrderDeadTime',
  'two lags': 'twoLags',
  'two lags, dead time': 'twoLagsDeadTime',
  'K, ζ, ωn': 'secondOrder',
  'K, ζ, ωn, dead time': 'secondOrderDeadTime',
  'integrator, dead time': 'integratorDeadTime',
};
const overFrequency = ['one zero, two poles', 'two zeros, two poles', 'one zero, three poles', 'two zeros, four poles'];

function FitMenu({ data, isFull, onFit }: { data: SheetData; isFull: boolean; onFit: (structure: string) => void }) {
  const offered = isOverTime(data) ? overTime : [...Object.keys(names), ...overFrequency];
  return (
    <select
      aria-label={`Fit a model to ${data.name}`}
      className="w-[84px] bg-transparent text-petrol"
      value=""
      disabled={isFull}
      onChange={(event) => onFit(names[event.target.value] ?? event.target.value)}
    >
      <option value="">Fit …</option>
      {offered.map((words) => (
        <option key={words}>{words}</option>
      ))}
    </select>
  );
}

import { type ReadLine, sheetLimits, type SheetLine } from '@nailset/core';
import { Toggle } from '../../shared/Toggle';

type Plant = NonNullable<Extract<ReadLine, { kind: 'system' }>['plant']>;

/** Of a line in equations or states: which input is driven, and which signals are looked at. */
export function PlantFields({
  name,
  plant: { inputs, signals, from, probes },
  onChange,
}: {
  name: string;
  plant: Plant;
  onChange: (line: Partial<SheetLine>) => void;
}) {
  const toggle = (signal: string) => {
    const next = signals.filter((each) => (each === signal ? !probes.includes(each) : probes.includes(each)));
    if (next.length > 0 && next.length <= sheetLimits.probes) onChange({ probes: next });
  };
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 text-note text-slate">
      {inputs.length > 1 ? (
        <select
          aria-label={`Input of ${name}`}
          className="bg-transparent text-petrol"
          value={from}
          onChange={(event) => onChange({ from: event.target.value })}
        >
          {inputs.map((input) => (
            <option key={input} value={input}>
              from {input}
            </option>
          ))}
          <option value="">all together</option>
        </select>
      ) : (
        <span>from {inputs[0]}</span>
      )}
      <span role="group" aria-label={`Signals of ${name}`} className="flex flex-wrap gap-x-2.5">
        {signals.map((signal) => (
          <Toggle key={signal} on={probes.includes(signal)} words={signal} onChange={() => toggle(signal)} />
        ))}
      </span>
    </p>
  );
}

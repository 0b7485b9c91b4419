import type { InputSignal, Series } from '@nailset/core';
import { Field } from '../../shared/Field';
import { NumberField, NumberListInput, SelectField } from '../../shared/fields';
import { FieldScope } from '../../shared/unread';

const kinds = {
  levels: 'step',
  ramp: 'ramp',
  parabola: 'parabola',
  impulse: 'impulse',
  series: 'table',
  initial: 'initial conditions',
} as const;
type Kind = keyof typeof kinds;

const fresh = (kind: Kind, series: readonly Series[]): InputSignal => {
  switch (kind) {
    case 'levels':
      return { kind, from: 0, to: 1, at: 0 };
    case 'series':
      return { kind, series: series[0]?.id ?? 'table' };
    case 'initial':
      return { kind, values: [1] };
    default:
      return { kind, amplitude: 1, at: 0 };
  }
};

/** What drives a system: step between levels, ramp, impulse, parabola, a table, or initial conditions alone. */
export function InputEditor({
  label,
  input,
  series,
  loops = false,
  onChange,
}: {
  label: string;
  input: InputSignal | undefined;
  series: readonly Series[];
  /** Loops start from rest, so initial conditions are not offered. */
  loops?: boolean;
  onChange: (input: InputSignal) => void;
}) {
  const shown = input ?? fresh('levels', series);
  const { initial: _initial, ...forLoops } = kinds;
  const offered = loops ? forLoops : kinds;
  return (
    <FieldScope name={label}>
      <div className="grid grid-cols-[1.3fr_1fr_1fr_1fr] gap-2">
        <SelectField
          label={label}
          value={shown.kind}
          options={offered as Record<Kind, string>}
          onChange={(kind) => onChange(fresh(kind, series))}
        />
        {shown.kind === 'levels' && (
          <>
            <NumberField label="from" value={shown.from} onChange={(from) => onChange({ ...shown, from })} />
            <NumberField label="to" value={shown.to} onChange={(to) => onChange({ ...shown, to })} />
            <NumberField label="at" unit="s" min={0} value={shown.at} onChange={(at) => onChange({ ...shown, at })} />
          </>
        )}
        {'amplitude' in shown && (
          <>
            <NumberField
              label={shown.kind === 'ramp' ? 'slope' : shown.kind === 'impulse' ? 'area' : 'curvature'}
              value={shown.amplitude}
              onChange={(amplitude) => onChange({ ...shown, amplitude })}
            />
            <NumberField label="at" unit="s" min={0} value={shown.at} onChange={(at) => onChange({ ...shown, at })} />
          </>
        )}
        {shown.kind === 'series' && (
          <SelectField
            label="table"
            value={shown.series}
            options={Object.fromEntries(series.map(({ id, name }) => [id, name]))}
            onChange={(id) => onChange({ kind: 'series', series: id })}
          />
        )}
        {shown.kind === 'initial' && (
          <Field label="y; y′; …">
            {({ id }) => (
              <NumberListInput
                id={id}
                label="y; y′; …"
                values={shown.values}
                onChange={(values) => onChange({ kind: 'initial', values })}
              />
            )}
          </Field>
        )}
      </div>
    </FieldScope>
  );
}

import { type ExerciseDocument, nameToLatex, type Parameter } from '@nailset/core';
import { type Finding } from '@nailset/core/checks';
import { Button } from '../../shared/Button';
import type { Changed } from '../../shared/changed';
import { DecimalField } from '../../shared/DecimalField';
import { changedAt, NumberListInput, without } from '../../shared/fields';
import { Formula } from '../../shared/Formula';

/** The named numbers of an exercise, fixed or drawn for each student. */
export function ParametersEditor({
  parameters,
  findings,
  disabled,
  onChange,
}: {
  parameters: ExerciseDocument['parameters'];
  findings: readonly Finding[];
  disabled: boolean;
  onChange: (parameters: Parameter[]) => void;
}) {
  return (
    <section aria-label="Parameters">
      <h3 className="label mb-1">Parameters and the values students get</h3>
      <ul className="grid gap-3">
        {parameters.map((parameter, index) => (
          <li key={index} className="border-t border-grid pt-2">
            <ParameterRow
              parameter={parameter}
              disabled={disabled}
              error={findings.find(({ path }) => path.startsWith(`parameters/${index}/`))?.message}
              onChange={(change) => onChange(changedAt(parameters, index, change))}
              onRemove={() => onChange(without(parameters, index))}
            />
          </li>
        ))}
      </ul>
      {!disabled && parameters.length < 12 && (
        <Button look="quiet" className="mt-2" onClick={() => onChange([...parameters, newParameter(parameters)])}>
          Add a parameter
        </Button>
      )}
    </section>
  );
}

function newParameter(parameters: readonly Parameter[]): Parameter {
  const taken = parameters.map(({ symbol }) => symbol);
  const symbol = 'abcdfghkmn'.split('').find((letter) => !taken.includes(letter)) ?? `p${taken.length}`;
  return { symbol, meaning: '', unit: '', draw: { kind: 'fixed', value: 1 } };
}

const draws: Record<Parameter['draw']['kind'], Parameter['draw']> = {
  fixed: { kind: 'fixed', value: 1 },
  range: { kind: 'range', from: 1, to: 2, step: 0.1 },
  list: { kind: 'list', values: [1, 2, 3] },
};

function ParameterRow({
  parameter,
  disabled,
  error,
  onChange,
  onRemove,
}: {
  parameter: Parameter;
  disabled: boolean;
  error: string | undefined;
  onChange: (change: Changed<Parameter>) => void;
  onRemove: () => void;
}) {
  const { symbol, unit, meaning, draw, hidden = false } = parameter;
  const named = (what: string) => `${symbol || 'parameter'}, ${what}`;
  return (
    <div className="grid gap-1.5">
      <div className="grid grid-cols-[24px_46px_1fr_66px_auto_24px] items-center gap-1.5">
        <Formula latex={symbol ? nameToLatex(symbol) : '?'} />
        <input
          className="input px-1.5 py-1 font-mono text-[13px]"
          aria-label={named('symbol')}
          maxLength={16}
          disabled={disabled}
          value={symbol}
          onChange={(event) => {
            const next = event.target.value.trim();
            if (/^([A-Za-zα-ωΑ-Ω][A-Za-z0-9_α-ωΑ-Ω]{0,15})$/.test(next)) onChange({ symbol: next });
          }}
        />
        <input
          className="input px-1.5 py-1 text-[13px]"
          aria-label={named('meaning')}
          placeholder="meaning"
          maxLength={80}
          disabled={disabled}
          value={meaning}
          onChange={(event) => onChange({ meaning: event.target.value })}
        />
        <input
          className="input px-1.5 py-1 text-[13px]"
          aria-label={named('unit')}
          placeholder="unit"
          maxLength={20}
          disabled={disabled}
          value={unit}
          onChange={(event) => onChange({ unit: event.target.value })}
        />
        <label className="flex items-center gap-1 text-note text-slate" title="Students see neither value nor letter">
          <input
            type="checkbox"
            className="accent-petrol"
            aria-label={named('hidden from students')}
            disabled={disabled}
            checked={hidden}
            onChange={(event) => onChange({ hidden: event.target.checked || undefined })}
          />
          hide
        </label>
        {!disabled && (
          <button
            type="button"
            aria-label={`Remove ${symbol}`}
            className="text-slate hover:text-brick"
            onClick={onRemove}
          >
            ×
          </button>
        )}
      </div>
      <div className="grid grid-cols-[92px_1fr] items-center gap-1.5 pl-[30px]">
        <select
          className="input px-1 py-1 text-[13px]"
          aria-label={named('kind of draw')}
          disabled={disabled}
          value={draw.kind}
          onChange={(event) => onChange({ draw: draws[event.target.value as Parameter['draw']['kind']] })}
        >
          <option value="fixed">one value</option>
          <option value="range">range</option>
          <option value="list">list</option>
        </select>
        {draw.kind === 'fixed' && (
          <DecimalField
            key="fixed"
            label={named('value')}
            disabled={disabled}
            value={draw.value}
            onChange={(value) => onChange({ draw: { kind: 'fixed', value } })}
          />
        )}
        {draw.kind === 'range' && (
          <span className="flex items-center gap-1 text-[13px] text-slate">
            {(['from', 'to', 'step'] as const).map((end) => (
              <span key={end} className="flex min-w-0 flex-1 items-center gap-1">
                {end !== 'from' && (end === 'to' ? 'to' : 'by')}
                <DecimalField
                  label={named(end)}
                  disabled={disabled}
                  value={draw[end]}
                  className="min-w-0 flex-1"
                  onChange={(value) => onChange({ draw: { ...draw, [end]: value } })}
                />
              </span>
            ))}
          </span>
        )}
        {draw.kind === 'list' && (
          <NumberListInput
            values={draw.values}
            label={named('values')}
            disabled={disabled}
            onChange={(values) => onChange({ draw: { kind: 'list', values } })}
          />
        )}
      </div>
      {error && <p className="pl-[34px] text-note text-brick">{error}</p>}
    </div>
  );
}

import type { CurvePart } from '@nailset/core';
import { constantTransfer, rationalFromNumber } from '@nailset/core';
import { useMemo } from 'react';
import { Button } from '../../shared/Button';
import { ExpressionField } from '../../shared/ExpressionField';
import {
  CellText,
  changedAt,
  NumberField,
  PointsField,
  RemoveButton,
  SelectField,
  TextField,
  without,
} from '../../shared/fields';
import { type EditorProps, errorOf } from '../fields/editor';
import { InputEditor } from '../fields/InputEditor';
import { LadderFields, ladderHeads } from '../fields/LadderFields';

type Knob = CurvePart['knobs'][number];

export function CurveEditor({ part, scope, series, findings, onChange }: EditorProps<'curve'>) {
  const set = (index: number, change: Partial<Knob>) => onChange({ knobs: changedAt(part.knobs, index, change) });
  const started = useMemo(() => {
    const names = new Map(scope.names);
    for (const { symbol, start } of part.knobs) names.set(symbol, constantTransfer(rationalFromNumber(start)));
    return { ...scope, names };
  }, [scope, part.knobs]);
  const add = () => {
    const taken = part.knobs.map(({ symbol }) => symbol);
    const symbol = ['K', 'T', 'L', 'a', 'b', 'c'].find((name) => !taken.includes(name)) ?? `p${taken.length}`;
    onChange({ knobs: [...part.knobs, { symbol, unit: '', start: 1, fine: 0.05, coarse: 0.5 }] });
  };
  const measured = 'series' in part.target ? part.target.series : '';
  return (
    <>
      <ExpressionField
        label="Model that the student sets"
        text={part.model}
        scope={started}
        reads="system"
        error={errorOf(findings, 'model')}
        onChange={(model) => onChange({ model })}
      />
      <section aria-label="What the student sets">
        <div className="grid grid-cols-[44px_40px_1fr_1fr_1fr_1fr_1fr_24px] items-center gap-1 text-note text-slate">
          {['name', 'unit', ...ladderHeads, ''].map((heading) => (
            <span key={heading}>{heading}</span>
          ))}
          {part.knobs.map((knob, index) => (
            <div key={index} className="contents">
              <CellText
                label={`Name of knob ${index + 1}`}
                mono
                maxLength={16}
                value={knob.symbol}
                onChange={(symbol) => symbol && set(index, { symbol })}
              />
              <CellText
                label={`${knob.symbol}, unit`}
                maxLength={12}
                value={knob.unit}
                onChange={(unit) => set(index, { unit })}
              />
              <LadderFields
                name={knob.symbol}
                ladder={knob}
                onChange={(next) => onChange({ knobs: part.knobs.map((old, k) => (k === index ? next : old)) })}
              />
              {part.knobs.length > 1 ? (
                <RemoveButton
                  label={`Remove ${knob.symbol}`}
                  onClick={() => onChange({ knobs: without(part.knobs, index) })}
                />
              ) : (
                <span />
              )}
            </div>
          ))}
        </div>
        {errorOf(findings, 'knobs') && <p className="text-note text-brick">{errorOf(findings, 'knobs')}</p>}
        {part.knobs.length < 5 && (
          <Button look="quiet" className="mt-1" onClick={add}>
            Add another
          </Button>
        )}
      </section>
      <SelectField
        label="Curve to follow"
        value={measured}
        options={{ '': 'a system', ...Object.fromEntries(series.map(({ id, name }) => [id, `table: ${name}`])) }}
        onChange={(id) => onChange({ target: id ? { series: id } : { system: '1.5/(0.6*s + 1)' } })}
      />
      {'system' in part.target && (
        <ExpressionField
          label="Its system, hidden from students"
          text={part.target.system}
          scope={scope}
          reads="system"
          error={errorOf(findings, 'target')}
          onChange={(system) => onChange({ target: { system } })}
        />
      )}
      <InputEditor label="Input" input={part.input} series={series} onChange={(input) => onChange({ input })} />
      <TextField
        label="Output and its unit"
        maxLength={60}
        value={part.output}
        error={errorOf(findings, 'output')}
        onChange={(output) => onChange({ output })}
      />
      <div className="grid grid-cols-3 gap-3">
        <NumberField
          label="Time shown"
          unit="s"
          min={0.001}
          value={part.horizon}
          onChange={(horizon) => onChange({ horizon })}
        />
        <NumberField
          label="Misfit allowed"
          unit="%"
          min={0.01}
          max={50}
          value={part.misfitPercent}
          onChange={(misfitPercent) => onChange({ misfitPercent })}
        />
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
      </div>
    </>
  );
}

import { absoluteTolerance, quantities, type QuantityName, quantityNames, turnOf } from '@nailset/core';
import { ExpressionField } from '../../shared/ExpressionField';
import { CheckField, NumberField, PointsField, SelectField, TextField } from '../../shared/fields';
import { type EditorProps, errorOf } from '../fields/editor';

const asked = Object.fromEntries(quantityNames.map((name) => [name, quantities[name].label])) as Record<
  QuantityName,
  string
>;

export function NumberEditor({ part, scope, findings, onChange }: EditorProps<'number'>) {
  const outer = /^\s*([A-Za-z0-9]+)\s*\(([\s\S]*)\)\s*$/.exec(part.formula);
  const quantity = quantityNames.find((name) => name === outer?.[1]);
  // Angles never count in per cent.
  const isAngle = turnOf(part.unit) !== undefined;
  const within = absoluteTolerance(part);
  const absolute = within !== undefined;
  return (
    <>
      <SelectField
        label="Asked for"
        value={quantity ?? ''}
        options={
          { ...(quantity ? {} : { '': 'a formula of your own' }), ...asked } as Record<QuantityName | '', string>
        }
        onChange={(name) => {
          if (name) onChange({ formula: `${name}(${outer?.[2] ?? 'G'})`, unit: quantities[name].unit });
        }}
      />
      <ExpressionField
        label="Formula"
        text={part.formula}
        scope={scope}
        reads="number"
        placeholder="for example riseTime(closed(G))"
        error={errorOf(findings, 'formula')}
        onChange={(formula) => onChange({ formula })}
      />
      <ConditionFields part={part} error={errorOf(findings, 'condition')} onChange={onChange} />
      <div className="grid grid-cols-[1fr_1fr_1.2fr_1fr] gap-2">
        <TextField label="Unit" maxLength={12} value={part.unit} onChange={(unit) => onChange({ unit })} />
        <NumberField
          label="Tolerance"
          unit={absolute ? part.unit : '%'}
          min={0}
          {...(absolute ? {} : { max: 20 })}
          value={within === undefined ? part.tolerancePercent : Number(within.toPrecision(4))}
          onChange={(value) => onChange(absolute ? { toleranceAbsolute: value } : { tolerancePercent: value })}
        />
        <SelectField
          label="counted"
          value={absolute ? 'absolute' : 'relative'}
          options={
            (isAngle ? { absolute: 'in its unit' } : { relative: 'relative', absolute: 'in its unit' }) as Record<
              'relative' | 'absolute',
              string
            >
          }
          onChange={(way) => onChange({ toleranceAbsolute: way === 'absolute' ? 0.1 : undefined })}
        />
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
      </div>
    </>
  );
}

/** A value with which something holds, instead of one that is close to the formula’s. */
function ConditionFields({
  part,
  error,
  onChange,
}: Pick<EditorProps<'number'>, 'part' | 'onChange'> & { error: string | undefined }) {
  const { condition } = part;
  return (
    <>
      <CheckField
        label="Any value that satisfies a condition"
        checked={condition !== undefined}
        onChange={(on) =>
          onChange({
            condition: on ? { symbol: 'K', holds: '49 <= phaseMargin(K*G) <= 51' } : undefined,
          })
        }
      />
      {condition && (
        <div className="grid grid-cols-[80px_1fr] gap-2">
          <TextField
            label="Its letter"
            maxLength={16}
            value={condition.symbol}
            onChange={(symbol) => symbol && onChange({ condition: { ...condition, symbol } })}
          />
          <TextField
            label="Condition; the formula above gives one such value"
            maxLength={500}
            value={condition.holds}
            error={error}
            onChange={(holds) => holds && onChange({ condition: { ...condition, holds } })}
          />
        </div>
      )}
    </>
  );
}

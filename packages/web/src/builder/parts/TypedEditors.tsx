import { type QuantityName, quantities, quantityNames } from '@nailset/core';
import { ExpressionField } from '../../shared/ExpressionField';
import { NumberField, SelectField, TextField, PointsField } from '../fields';
import { type EditorProps, errorOf } from './editor';

export function TransferFunctionEditor({ part, scope, findings, onChange }: EditorProps<'transferFunction'>) {
  return (
    <>
      <ExpressionField
        label="Expected transfer function"
        text={part.expected}
        scope={scope}
        reads="system"
        placeholder="for example feedback(K*G, H)"
        error={errorOf(findings, 'expected')}
        onChange={(expected) => onChange({ expected })}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Tolerance"
          hint="of each coefficient, after dividing by the leading one"
          unit="%"
          min={0}
          max={20}
          value={part.tolerancePercent}
          onChange={(tolerancePercent) => onChange({ tolerancePercent })}
        />
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
      </div>
    </>
  );
}

const asked = Object.fromEntries(quantityNames.map((name) => [name, quantities[name].label])) as Record<
  QuantityName,
  string
>;

export function NumberEditor({ part, scope, findings, onChange }: EditorProps<'number'>) {
  const outer = /^\s*([A-Za-z0-9]+)\s*\(([\s\S]*)\)\s*$/.exec(part.formula);
  const quantity = quantityNames.find((name) => name === outer?.[1]);
  const absolute = part.toleranceAbsolute !== undefined;
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
        placeholder="for example riseTime(feedback(G))"
        error={errorOf(findings, 'formula')}
        onChange={(formula) => onChange({ formula })}
      />
      <div className="grid grid-cols-[1fr_1fr_1.2fr_1fr] gap-2">
        <TextField label="Unit" maxLength={12} value={part.unit} onChange={(unit) => onChange({ unit })} />
        <NumberField
          label="Tolerance"
          unit={absolute ? part.unit : '%'}
          min={0}
          value={part.toleranceAbsolute ?? part.tolerancePercent}
          onChange={(value) =>
            onChange(absolute ? { toleranceAbsolute: value } : { tolerancePercent: Math.min(20, value) })
          }
        />
        <SelectField
          label="counted"
          value={absolute ? 'absolute' : 'relative'}
          options={{ relative: 'relative', absolute: 'in its unit' }}
          onChange={(way) => onChange({ toleranceAbsolute: way === 'absolute' ? 0.1 : (undefined as never) })}
        />
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
      </div>
    </>
  );
}

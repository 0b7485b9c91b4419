import { ExpressionField } from '../../shared/ExpressionField';
import { NumberField, PointsField } from '../../shared/fields';
import { type EditorProps, errorOf, withFormula } from '../fields/editor';
import { MarkingField } from '../fields/MarkingField';

export function RangeEditor({ part, scope, findings, onChange }: EditorProps<'range'>) {
  return (
    <>
      <ExpressionField
        label="Open loop L without its gain K"
        lead="L(s)="
        text={part.of}
        scope={scope}
        reads="system"
        error={errorOf(findings, 'of')}
        onChange={(of) => onChange({ of, prompt: withFormula(part.prompt, part.of, of) })}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Ends within"
          unit="%"
          min={0}
          max={20}
          value={part.tolerancePercent}
          onChange={(tolerancePercent) => onChange({ tolerancePercent })}
        />
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
      </div>
      <MarkingField marking={part.marking} onChange={(marking) => onChange({ marking })} />
    </>
  );
}

import { ExpressionField } from '../../shared/ExpressionField';
import { NumberField, PointsField } from '../../shared/fields';
import { type EditorProps, errorOf } from './editor';

/** A system that is expected, its tolerance and points. */
export function ExpectedSystem({
  part,
  scope,
  findings,
  onChange,
  label,
  hint,
}: Pick<EditorProps<'transferFunction' | 'states'>, 'part' | 'scope' | 'findings'> & {
  onChange: (change: { expected?: string; tolerancePercent?: number; points?: number }) => void;
  label: string;
  hint: string;
}) {
  return (
    <>
      <ExpressionField
        label={label}
        text={part.expected}
        scope={scope}
        reads="system"
        placeholder="for example closed(K*G, H)"
        error={errorOf(findings, 'expected')}
        onChange={(expected) => onChange({ expected })}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Tolerance"
          hint={hint}
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

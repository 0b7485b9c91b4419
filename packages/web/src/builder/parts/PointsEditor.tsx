import { type PointSet, pointSets } from '@nailset/core';
import { ExpressionField } from '../../shared/ExpressionField';
import { NumberField, PointsField, SelectField } from '../fields';
import { type EditorProps, errorOf, withFormula } from './editor';
import { MarkingField } from './MarkingField';

const names: Record<PointSet, string> = {
  poles: 'its poles',
  zeros: 'its zeros',
  breakPoints: 'break points of its locus',
  axisCrossings: 'axis crossings of its locus',
  realAxis: 'stretches of the real axis on its locus',
  asymptotes: 'asymptotes of its locus',
  locus: 'points on its locus',
};

/** Which points of the s-plane are asked for, and how near they must be. */
export function PointsEditor({ part, scope, findings, onChange }: EditorProps<'points'>) {
  const isLocus = part.what === 'locus';
  return (
    <>
      <ExpressionField
        label="System, or open loop L"
        lead="L(s)="
        text={part.of}
        scope={scope}
        reads="system"
        error={errorOf(findings, 'of')}
        onChange={(of) => onChange({ of, prompt: withFormula(part.prompt, part.of, of) })}
      />
      <SelectField
        label="Asked"
        value={part.what}
        options={Object.fromEntries(pointSets.map((set) => [set, names[set]])) as Record<PointSet, string>}
        onChange={(what) => onChange({ what })}
      />
      <div className="grid grid-cols-3 gap-3">
        {isLocus && (
          <NumberField
            label="How many"
            min={1}
            max={20}
            value={part.count ?? 5}
            onChange={(count) => onChange({ count: Math.round(count) })}
          />
        )}
        {!isLocus && part.what !== 'realAxis' && (
          <NumberField
            label="Within"
            unit="%"
            min={0}
            max={50}
            value={part.tolerancePercent}
            onChange={(tolerancePercent) => onChange({ tolerancePercent })}
          />
        )}
        {(isLocus || part.what === 'asymptotes') && (
          <NumberField
            label="Angle within"
            unit="°"
            min={0.1}
            max={45}
            value={part.toleranceDegrees ?? 5}
            onChange={(toleranceDegrees) => onChange({ toleranceDegrees })}
          />
        )}
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
      </div>
      <MarkingField marking={part.marking} onChange={(marking) => onChange({ marking })} />
    </>
  );
}

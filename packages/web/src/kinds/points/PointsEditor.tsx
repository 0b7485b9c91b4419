import { type PointSet, pointSets } from '@nailset/core';
import { ExpressionField } from '../../shared/ExpressionField';
import { CheckField, NumberField, PointsField, SelectField } from '../../shared/fields';
import { type EditorProps, errorOf, withFormula } from '../fields/editor';
import { MarkingField } from '../fields/MarkingField';
import { pointsAsked } from './pointsAsked';

const names: Record<PointSet, string> = {
  poles: 'its poles',
  zeros: 'its zeros',
  breakPoints: 'break points of its locus',
  axisCrossings: 'axis crossings of its locus',
  realAxis: 'stretches of the real axis on its locus',
  asymptotes: 'asymptotes of its locus',
  locus: 'points on its locus',
};

/** Title and prompt for what is asked now, each as long as it is still the one that came with what was asked before. */
function wordsFor({ title, prompt, what, of }: EditorProps<'points'>['part'], next: PointSet) {
  const [before, after] = [pointsAsked(what, of), pointsAsked(next, of)];
  return {
    title: title === before.title ? after.title : title,
    prompt: prompt === before.prompt ? after.prompt : prompt,
  };
}

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
        onChange={(what) => onChange({ what, ...wordsFor(part, what) })}
      />
      <div className="grid grid-cols-3 gap-3">
        {isLocus && (
          <NumberField
            label="How many"
            min={1}
            max={20}
            value={part.count ?? 5}
            whole
            onChange={(count) => onChange({ count })}
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
      {isLocus && (
        <CheckField
          label="Only points off the real axis count"
          checked={part.offAxis ?? false}
          onChange={(on) => onChange({ offAxis: on || undefined })}
        />
      )}
      <MarkingField marking={part.marking} onChange={(marking) => onChange({ marking })} />
    </>
  );
}

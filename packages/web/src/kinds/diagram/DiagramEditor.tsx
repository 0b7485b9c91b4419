import { type DiagramPart, must } from '@nailset/core';
import { Button } from '../../shared/Button';
import { changedAt, NumberField, PointsField, RemoveButton, SelectField, without } from '../../shared/fields';
import { freeId } from '../../shared/freeId';
import { endsOf, SystemField } from '../fields/diagramFields';
import { type EditorProps, errorOf } from '../fields/editor';
import { MarkingField } from '../fields/MarkingField';

export function DiagramEditor({ part, diagrams, findings, onChange }: EditorProps<'diagram'>) {
  const set = (index: number, change: Partial<DiagramPart['asked'][number]>) =>
    onChange({ asked: changedAt(part.asked, index, change) });
  return (
    <>
      <SystemField
        diagrams={diagrams}
        system={part.system}
        error={errorOf(findings, 'system')}
        onChange={({ name, from, to }) =>
          onChange({ system: name, asked: part.asked.map((pair) => ({ ...pair, from, to })) })
        }
      />
      <section aria-label="Pairs asked for" className="grid gap-1.5">
        {part.asked.map(({ id, from, to, points }, index) => {
          const { inputs, signals } = endsOf(diagrams, part.system, from, to);
          return (
            <div key={id} className="grid grid-cols-[1fr_1fr_86px_24px] items-end gap-2">
              <SelectField label="From" value={from} options={inputs} onChange={(next) => set(index, { from: next })} />
              <SelectField label="to" value={to} options={signals} onChange={(next) => set(index, { to: next })} />
              <PointsField points={points} onChange={(next) => set(index, { points: next })} />
              {part.asked.length > 1 && (
                <RemoveButton
                  label={`Remove ${to}/${from}`}
                  onClick={() => onChange({ asked: without(part.asked, index) })}
                />
              )}
              {errorOf(findings, `asked/${index}`) && (
                <p className="col-span-full text-note text-brick">{errorOf(findings, `asked/${index}`)}</p>
              )}
            </div>
          );
        })}
        {part.asked.length < 6 && (
          <Button
            look="quiet"
            className="justify-self-start"
            onClick={() => {
              const last = must(part.asked[part.asked.length - 1]);
              const taken = part.asked.map(({ id }) => id);
              onChange({ asked: [...part.asked, { ...last, id: freeId('pair', taken) }] });
            }}
          >
            Ask for another pair
          </Button>
        )}
      </section>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Tolerance"
          hint="of coefficients in numbers; letters are compared exactly"
          unit="%"
          min={0}
          max={20}
          value={part.tolerancePercent}
          onChange={(tolerancePercent) => onChange({ tolerancePercent })}
        />
        {part.asked.length > 1 && <MarkingField marking={part.marking} onChange={(marking) => onChange({ marking })} />}
      </div>
    </>
  );
}

import { type ChoicePart, must, type PlotKind, type Scope } from '@nailset/core';
import { Button } from '../../shared/Button';
import type { Changed } from '../../shared/changed';
import {
  CellText,
  changedAt,
  CheckField,
  NumberField,
  PointsField,
  RemoveButton,
  SelectField,
  without,
} from '../../shared/fields';
import { freeId } from '../../shared/freeId';
import { same } from '../fields/diagramFields';
import type { Drawn } from '../fields/editor';
import { type EditorProps, errorOf } from '../fields/editor';
import { MarkingField } from '../fields/MarkingField';

type Option = ChoicePart['options'][number];

export function ChoiceEditor({ part, scope, diagrams, findings, onChange }: EditorProps<'choice'>) {
  const set = (index: number, change: Changed<Option>) => onChange({ options: changedAt(part.options, index, change) });
  const add = () => {
    const taken = part.options.map(({ id }) => id);
    const id = 'abcdefgh'.split('').find((letter) => !taken.includes(letter)) ?? freeId('option', taken);
    onChange({ options: [...part.options, { id, text: 'Another option', right: false }] });
  };
  return (
    <>
      <section aria-label="Options" className="grid gap-2">
        <h3 className="caption">Options</h3>
        {part.options.map((option, index) => (
          <div key={option.id} className="grid gap-1 border-t border-grid pt-2">
            <div className="grid grid-cols-[1fr_24px] items-center gap-2">
              <CellText
                label={`Option ${index + 1}`}
                value={option.text}
                maxLength={400}
                onChange={(text) => set(index, { text })}
              />
              {part.options.length > 2 && (
                <RemoveButton
                  label={`Remove option ${index + 1}`}
                  onClick={() => onChange({ options: without(part.options, index) })}
                />
              )}
            </div>
            <RightField option={option} index={index} diagrams={diagrams} onChange={(right) => set(index, { right })} />
            <PlotField
              index={index}
              plot={option.plot}
              scope={scope}
              onChange={(plot) => set(index, { plot: plot ?? undefined })}
            />
            <CellText
              label={`Remark when option ${index + 1} is wrong`}
              placeholder="remark when it is wrong (optional)"
              value={option.remark ?? ''}
              maxLength={400}
              onChange={(remark) => set(index, { remark: remark || undefined })}
            />
            {errorOf(findings, `options/${index}`) && (
              <p className="text-note text-brick">{errorOf(findings, `options/${index}`)}</p>
            )}
          </div>
        ))}
        {part.options.length < 8 && (
          <Button look="quiet" className="justify-self-start" onClick={add}>
            Add an option
          </Button>
        )}
      </section>
      <CheckField label="Several can be right" checked={part.several} onChange={(several) => onChange({ several })} />
      <div className="grid grid-cols-2 gap-3">
        <PointsField points={part.points} onChange={(points) => onChange({ points })} />
        <NumberField
          label="Tries"
          min={1}
          max={50}
          value={part.attempts ?? 1}
          whole
          onChange={(attempts) => onChange({ attempts })}
        />
        {part.several && <MarkingField marking={part.marking} onChange={(marking) => onChange({ marking })} />}
      </div>
    </>
  );
}

const plotNames: Record<PlotKind | '', string> = {
  '': 'no plot',
  step: 'step response of',
  poles: 'poles and zeros of',
  locus: 'root locus of',
  bode: 'Bode plot of',
  nyquist: 'Nyquist plot of',
};

/** The plot that an option shows, if any. */
function PlotField({
  index,
  plot,
  scope,
  onChange,
}: {
  index: number;
  plot: Option['plot'];
  scope: Scope;
  onChange: (plot: Option['plot']) => void;
}) {
  return (
    <div className="grid grid-cols-[130px_1fr] items-end gap-2">
      <SelectField
        label={`Plot of option ${index + 1}`}
        value={plot?.kind ?? ''}
        options={plotNames}
        onChange={(kind) =>
          onChange(kind ? { kind, system: plot?.system ?? ([...scope.names.keys()].at(-1) || '1/(s + 1)') } : undefined)
        }
      />
      {plot && (
        <CellText
          label={`System of plot ${index + 1}`}
          mono
          value={plot.system}
          maxLength={500}
          onChange={(system) => system && onChange({ ...plot, system })}
        />
      )}
    </div>
  );
}

const ways = { yes: 'right', no: 'wrong', when: 'right when …', equal: 'right when equal' } as const;

function RightField({
  option: { right, text },
  index,
  diagrams,
  onChange,
}: {
  option: Option;
  index: number;
  diagrams: readonly Drawn[];
  onChange: (right: Option['right']) => void;
}) {
  const way = typeof right === 'string' ? 'when' : typeof right === 'object' ? 'equal' : right ? 'yes' : 'no';
  const names = diagrams.map(({ name }) => name);
  const { equal: _, ...fewer } = ways;
  const choose = (next: keyof typeof ways) => {
    if (next !== 'equal') return onChange(next === 'when' ? 'stable(G)' : next === 'yes');
    const shown = /\(diagram:(\w+)\)/.exec(text)?.[1];
    const one = shown && names.includes(shown) ? shown : must(names.at(-1));
    onChange({ equal: [one, names.find((name) => name !== one) ?? one] });
  };
  return (
    <div className="grid grid-cols-[130px_1fr] items-end gap-2">
      <SelectField
        label={`Option ${index + 1} is`}
        value={way}
        options={names.length > 1 || way === 'equal' ? ways : (fewer as typeof ways)}
        onChange={choose}
      />
      {typeof right === 'string' && (
        <CellText
          label={`Condition of option ${index + 1}`}
          mono
          value={right}
          maxLength={500}
          placeholder="for example overshootPercent(G) > 5"
          onChange={(condition) => condition && onChange(condition)}
        />
      )}
      {typeof right === 'object' && (
        <div className="grid grid-cols-2 gap-2">
          {right.equal.map((system, k) => (
            <SelectField
              key={k}
              label={k === 0 ? 'The diagram' : 'equals'}
              value={system}
              options={same([...new Set([system, ...names])])}
              onChange={(name) => onChange({ equal: k === 0 ? [name, right.equal[1]] : [right.equal[0], name] })}
            />
          ))}
        </div>
      )}
    </div>
  );
}

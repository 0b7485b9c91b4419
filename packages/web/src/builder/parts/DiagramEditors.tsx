import { type DiagramPart, orElse } from '@nailset/core';
import { readBlocks } from '@nailset/core/diagrams';
import type { ReactNode } from 'react';
import { Button } from '../../shared/Button';
import { NumberField, PointsField, RemoveButton, SelectField, changedAt, without } from '../fields';
import { freeId } from '../newExercise';
import { type EditorProps, errorOf } from './editor';
import { MarkingField } from './MarkingField';

/** A system in signal equations. */
export interface Drawn {
  readonly name: string;
  readonly text: string;
  readonly from: string;
  readonly to: string;
}

type About<Kind extends 'diagram' | 'reduction' | 'paths'> = EditorProps<Kind> & { diagrams: readonly Drawn[] };

/** Names as the options of a field, each standing for itself. */
export const same = (names: readonly string[]): Record<string, string> =>
  Object.fromEntries(names.map((name) => [name, name]));

/** Inputs and named signals of a diagram, what is chosen always among them. */
function endsOf(diagrams: readonly Drawn[], system: string, from: string, to: string) {
  const found = diagrams.find(({ name }) => name === system);
  const read = found && readOrNot(found);
  const signals = read?.nodes.map(({ id }) => id).filter((id) => !id.startsWith('#')) ?? [];
  return { inputs: same([...new Set([from, ...(read?.inputs ?? [])])]), signals: same([...new Set([to, ...signals])]) };
}

function readOrNot({ text, from }: Drawn) {
  return orElse(undefined, () => readBlocks(text, [from]));
}

function SystemField({
  diagrams,
  system,
  error,
  onChange,
}: {
  diagrams: readonly Drawn[];
  system: string;
  error: string | undefined;
  onChange: (system: Drawn) => void;
}) {
  const names = [...new Set([system, ...diagrams.map(({ name }) => name)])];
  return (
    <div>
      <SelectField
        label="Diagram"
        value={system}
        options={same(names)}
        onChange={(name) => {
          const found = diagrams.find((drawn) => drawn.name === name);
          if (found) onChange(found);
        }}
      />
      {error && <p className="mt-1 text-note text-brick">{error}</p>}
    </div>
  );
}

export function DiagramEditor({ part, diagrams, findings, onChange }: About<'diagram'>) {
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
            <div key={id} className="grid grid-cols-[1fr_1fr_86px_14px] items-end gap-2">
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
              const last = part.asked[part.asked.length - 1]!;
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

const typedWords = {
  no: 'no, moves are enough',
  atOnce: 'yes, checked at once',
  atHandIn: 'yes, checked at hand-in',
} as const;

export function ReductionEditor(props: About<'reduction'>) {
  const { part, onChange } = props;
  return (
    <AboutPair {...props} onPair={onChange}>
      <SelectField
        label="Each step’s result is typed"
        value={part.typed}
        options={typedWords}
        onChange={(typed) => onChange({ typed })}
      />
    </AboutPair>
  );
}

export function PathsEditor(props: About<'paths'>) {
  const { part, onChange } = props;
  return (
    <AboutPair {...props} onPair={onChange}>
      <SelectField
        label="List"
        value={part.list}
        options={{ loops: 'loops', forward: 'forward paths' }}
        onChange={(list) => onChange({ list })}
      />
    </AboutPair>
  );
}

/** A diagram, one pair of its signals, points, and what the kind of part adds. */
function AboutPair({
  part,
  diagrams,
  findings,
  onPair,
  children,
}: Pick<About<'reduction' | 'paths'>, 'part' | 'diagrams' | 'findings'> & {
  onPair: (change: { system?: string; from?: string; to?: string; points?: number }) => void;
  children: ReactNode;
}) {
  const { inputs, signals } = endsOf(diagrams, part.system, part.from, part.to);
  return (
    <>
      <SystemField
        diagrams={diagrams}
        system={part.system}
        error={errorOf(findings, 'system')}
        onChange={({ name, from, to }) => onPair({ system: name, from, to })}
      />
      <div className="grid grid-cols-[1fr_1fr_1.6fr_86px] items-end gap-2">
        <SelectField label="From" value={part.from} options={inputs} onChange={(from) => onPair({ from })} />
        <SelectField label="to" value={part.to} options={signals} onChange={(to) => onPair({ to })} />
        {children}
        <PointsField points={part.points} onChange={(points) => onPair({ points })} />
      </div>
    </>
  );
}

import { orElse } from '@nailset/core';
import { readBlocks } from '@nailset/core/diagrams';
import type { ReactNode } from 'react';
import { PointsField, SelectField } from '../../shared/fields';
import { type Drawn, type EditorProps, errorOf } from './editor';

/** Names as the options of a field, each standing for itself. */
export const same = (names: readonly string[]): Record<string, string> =>
  Object.fromEntries(names.map((name) => [name, name]));

/** Inputs and named signals of a diagram, what is chosen always among them. */
export function endsOf(diagrams: readonly Drawn[], system: string, from: string, to: string) {
  const drawn = diagrams.find(({ name }) => name === system);
  const read = drawn && readOrNot(drawn);
  const signals = read?.nodes.map(({ id }) => id).filter((id) => !id.startsWith('#')) ?? [];
  return { inputs: same([...new Set([from, ...(read?.inputs ?? [])])]), signals: same([...new Set([to, ...signals])]) };
}

function readOrNot({ text, from }: Drawn) {
  return orElse(undefined, () => readBlocks(text, [from]));
}

export function SystemField({
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
          const diagram = diagrams.find((drawn) => drawn.name === name);
          if (diagram) onChange(diagram);
        }}
      />
      {error && <p className="mt-1 text-note text-brick">{error}</p>}
    </div>
  );
}

/** A diagram, one pair of its signals, points, and what the kind of part adds. */
export function AboutPair({
  part,
  diagrams,
  findings,
  onPair,
  children,
}: Pick<EditorProps<'reduction' | 'paths'>, 'part' | 'diagrams' | 'findings'> & {
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

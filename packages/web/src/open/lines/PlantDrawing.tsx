import { orProblem, Problem, sheetLimits, type SheetLine } from '@nailset/core';
import { type DiagramGroup, equationOf, nodesOf, readBlocks, takenNames, withGroups } from '@nailset/core/diagrams';
import { useMemo, useState } from 'react';
import { DiagramView } from '../../diagram/DiagramView';
import { Button } from '../../shared/Button';

const noGroups: readonly DiagramGroup[] = [];

/** The drawing of a line in equations; parts of it are picked, and grouped under a name. */
export default function PlantDrawing({
  label,
  equations,
  from,
  to,
  groups = noGroups,
  onGroups,
}: {
  label: string;
  equations: string;
  from: string;
  to: readonly string[];
  groups: SheetLine['groups'];
  onGroups: (groups: readonly DiagramGroup[]) => void;
}) {
  const read = useMemo(() => orProblem(() => readBlocks(equations, [from])), [equations, from]);
  const shown = useMemo(() => (read instanceof Problem ? undefined : withGroups(read, groups)), [read, groups]);
  const [picked, setPicked] = useState<readonly string[]>([]);
  if (read instanceof Problem || !shown) return null;
  const { diagram, open, troubles } = shown;
  const signals = picked.filter((signal) => diagram.nodes.some(({ id }) => id === signal));
  const pick = (id: string) => {
    const signal = equationOf(diagram, id);
    if (!diagram.nodes.some((node) => node.id === signal)) return;
    setPicked(signals.includes(signal) ? signals.filter((each) => each !== signal) : [...signals, signal]);
  };
  return (
    <div className="mt-2 border-t border-rule pt-2">
      <DiagramView
        title={`Block diagram of ${label}`}
        {...{ diagram, groups: open }}
        outputs={to}
        picked={nodesOf(diagram, signals)}
        onPick={pick}
        className="h-[150px]"
      />
      <GroupList {...{ groups, onGroups }} />
      {troubles.map(({ message }) => (
        <p key={message} role="alert" className="text-note text-brick">
          {message}
        </p>
      ))}
      {signals.length > 0 && (
        <NewGroup
          key={groups.length}
          taken={new Set([...takenNames(diagram), ...groups.map(({ name }) => name)])}
          isFull={groups.length >= sheetLimits.groups}
          onName={(name) => {
            setPicked([]);
            // Each equation is in one group.
            const others = groups.map((group) => ({
              ...group,
              signals: group.signals.filter((signal) => !signals.includes(signal)),
            }));
            onGroups([...others.filter((group) => group.signals.length > 0), { name, signals, closed: false }]);
          }}
        />
      )}
    </div>
  );
}

/** The groups that there are: closed to one block, opened again, or no groups any more. */
function GroupList({
  groups,
  onGroups,
}: {
  groups: readonly DiagramGroup[];
  onGroups: (groups: readonly DiagramGroup[]) => void;
}) {
  return (
    <ul aria-label="Groups" className="mt-1 flex flex-wrap gap-x-4 text-note empty:hidden">
      {groups.map((group) => {
        const { name, closed } = group;
        return (
          <li key={name} className="flex items-baseline gap-2">
            <i className="font-serif text-plum">{name}</i>
            <button
              type="button"
              className="link"
              aria-label={`${closed ? 'Open' : 'Close'} ${name}`}
              onClick={() => onGroups(groups.map((old) => (old === group ? { ...old, closed: !closed } : old)))}
            >
              {closed ? 'open' : 'close'}
            </button>
            <button
              type="button"
              className="link"
              aria-label={`Ungroup ${name}`}
              onClick={() => onGroups(groups.filter((old) => old !== group))}
            >
              ungroup
            </button>
          </li>
        );
      })}
    </ul>
  );
}

const isName = /^\p{L}[\p{L}\p{Nd}_]*$/u;

function NewGroup({
  taken,
  isFull,
  onName,
}: {
  taken: ReadonlySet<string>;
  isFull: boolean;
  onName: (name: string) => void;
}) {
  const [name, setName] = useState('');
  const trouble = isFull
    ? `A line has up to ${sheetLimits.groups} groups.`
    : name && !isName.test(name)
      ? 'A name is a letter, then letters, digits or _.'
      : taken.has(name)
        ? `There is a ${name} already.`
        : '';
  return (
    <form
      className="mt-1 flex flex-wrap items-baseline gap-2 text-note"
      onSubmit={(event) => {
        event.preventDefault();
        if (name && !trouble) onName(name);
      }}
    >
      <label className="text-slate">
        Group as{' '}
        <input
          className="input w-[120px] px-1.5 py-0.5 font-mono"
          maxLength={sheetLimits.groupName}
          spellCheck={false}
          autoCapitalize="off"
          aria-invalid={trouble !== ''}
          value={name}
          onChange={(event) => setName(event.target.value.trim())}
        />
      </label>
      <Button look="quiet" type="submit" disabled={!name || trouble !== ''}>
        Group
      </Button>
      {trouble && <span className="text-brick">{trouble}</span>}
    </form>
  );
}

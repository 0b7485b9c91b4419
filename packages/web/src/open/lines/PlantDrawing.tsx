import { orProblem, Problem, sheetLimits, type SheetLine } from '@nailset/core';
import { type DiagramGroup, equationOf, groupsIn, nodesOf, readBlocks, takenNames } from '@nailset/core/diagrams';
import { useMemo, useState } from 'react';
import { DiagramView } from '../../diagram/DiagramView';
import { Button } from '../../shared/Button';
import { DialogFoot, DialogFrame } from '../../shared/DialogFrame';

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
  const diagram = useMemo(() => orProblem(() => readBlocks(equations, [from])), [equations, from]);
  const shown = useMemo(() => (diagram instanceof Problem ? undefined : groupsIn(diagram, groups)), [diagram, groups]);
  const [picked, setPicked] = useState<readonly string[]>([]);
  if (diagram instanceof Problem || !shown) return null;
  const { open, closed } = shown;
  const signals = picked.filter((signal) => diagram.nodes.some(({ id }) => id === signal));
  const pick = (id: string) => {
    const name = id.startsWith('group ') ? id.slice(6) : undefined;
    if (name) return onGroups(groups.map((old) => (old.name === name ? { ...old, closed: false } : old)));
    const signal = equationOf(diagram, id);
    if (!diagram.nodes.some((node) => node.id === signal)) return;
    setPicked(signals.includes(signal) ? signals.filter((each) => each !== signal) : [...signals, signal]);
  };
  const group = (name: string) => {
    setPicked([]);
    // Each equation is in one group.
    const others = groups.map((each) => ({ ...each, signals: each.signals.filter((one) => !signals.includes(one)) }));
    onGroups([...others.filter((each) => each.signals.length > 0), { name, signals, closed: false }]);
  };
  const title = `Block diagram of ${label}`;
  const view = (className: string) => (
    <>
      <DiagramView
        {...{ title, diagram, className, closed }}
        groups={open}
        outputs={to}
        picked={nodesOf(diagram, signals)}
        onPick={pick}
      />
      <GroupList {...{ groups, onGroups }} />
      {signals.length > 0 && (
        <NewGroup
          key={groups.length}
          taken={new Set([...takenNames(diagram), ...groups.map(({ name }) => name)])}
          isFull={groups.length >= sheetLimits.groups}
          onName={group}
        />
      )}
    </>
  );
  return (
    <div className="my-2 border-y border-rule py-2">
      {view('h-[150px]')}
      <DialogFrame
        title={title}
        width="w-[min(94vw,1080px)]"
        trigger={
          <button type="button" className="link mt-1 text-note">
            Enlarge
          </button>
        }
      >
        <div className="my-3">{view('h-[min(56vh,440px)]')}</div>
        <DialogFoot leave="Close" />
      </DialogFrame>
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

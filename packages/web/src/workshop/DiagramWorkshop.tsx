import { nameToLatex, orProblem, Problem, symbolicToLatex } from '@nailset/core';
import type { Drawing } from '@nailset/core/diagrams';
import {
  type BlockDiagram,
  exactQuestion,
  exactTransfer,
  outputsOf,
  readBlocks,
  readWith,
  textOfBlocks,
} from '@nailset/core/diagrams';
import { Dialog } from 'radix-ui';
import { startTransition, useDeferredValue, useMemo, useReducer, useState } from 'react';
import { DiagramView } from '../diagram/DiagramView';
import { PathPanel } from '../diagram/PathPanel';
import { lineWords, shapeWords } from '../diagram/words';
import { KeyPanel } from '../ledger/KeyPanel';
import { Button } from '../shared/Button';
import { Formula } from '../shared/Formula';
import { historyOf, historyReducer, undoKey } from '../shared/history';
import { useBackCloses } from '../shared/useBackCloses';
import { useSettled } from '../shared/useSettled';
import { GestureBar } from './GestureBar';
import { gesturesFor } from './gestures';
import { startingPoints } from './startingPoints';

export interface Equations {
  readonly text: string;
  readonly from: string;
  readonly to: string;
}

const views = { draw: 'Drawing', paths: 'Paths and loops', key: 'Reduction' } as const;
type View = keyof typeof views;

/** Signal equations and their drawing side by side, each following the other. */
export function DiagramWorkshop({
  name,
  equations,
  onChange,
  onClose,
}: {
  name: string;
  equations: Equations;
  onChange: (equations: Equations) => void;
  onClose: () => void;
}) {
  const close = useBackCloses(onClose);
  const workshop = useWorkshop(equations, onChange);
  const [view, setView] = useState<View>('draw');

  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-3 inset-y-3 z-40 grid grid-rows-[auto_1fr] overflow-y-auto rounded-[3px] border border-rule bg-paper sm:inset-x-8 sm:inset-y-6"
          onKeyDown={(event) => {
            const way = undoKey(event);
            if (!way) return;
            event.preventDefault();
            workshop.step(way);
          }}
        >
          <Toolbar {...{ name, workshop, view }} onView={setView} />
          <div className="grid min-h-0 gap-5 p-5 md:grid-cols-[290px_1fr]">
            <EquationFields {...{ workshop, equations }} />
            <Shown {...{ name, workshop, equations, view }} />
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What letters in the equations are called in the history. */
const typing = 'text';

/** The equations being written, their drawing, what is chosen on it, and every change with its way back. */
function useWorkshop(equations: Equations, onChange: (equations: Equations) => void) {
  const [history, dispatch] = useReducer(historyReducer<string>, equations.text, historyOf);
  const [picked, setPicked] = useState<readonly string[]>([]);
  const text = history.now;
  // Letters are painted first; what is read from them, and the builder below, follow. All else is read at once.
  const followed = useDeferredValue(text);
  const drawn = history.typing === typing ? followed : text;
  const read = useMemo(() => readText(drawn, equations.from), [drawn, equations.from]);
  const [last, setLast] = useState<BlockDiagram | undefined>(read instanceof Problem ? undefined : read);
  if (!(read instanceof Problem) && read !== last) setLast(read);
  const diagram = read instanceof Problem ? last : read;

  const keep = (next: string, pair: Partial<Equations> = {}) => {
    const diagram = readText(next, pair.from ?? equations.from);
    if (diagram instanceof Problem) return onChange({ ...equations, ...pair, text: next });
    const from = pair.from ?? (diagram.inputs.includes(equations.from) ? equations.from : diagram.inputs[0]);
    const ids = diagram.nodes.map(({ id }) => id);
    const to = pair.to ?? (ids.includes(equations.to) ? equations.to : outputsOf(diagram)[0]);
    onChange({ text: next, from: from ?? equations.from, to: to ?? equations.to });
  };
  const type = (next: string) => {
    dispatch({ do: 'change', to: next, typing });
    if (next.trim()) startTransition(() => keep(next));
  };
  const change = (next: BlockDiagram): boolean => {
    // Made on a picture of what was there before the last letters: these count.
    if (drawn !== text) return false;
    const changed = textOfBlocks(next);
    dispatch({ do: 'change', to: changed });
    keep(changed);
    setPicked([]);
    return true;
  };
  const step = (way: 'undo' | 'redo') => {
    const next = way === 'undo' ? history.past.at(-1) : history.future[0];
    if (next === undefined) return;
    dispatch({ do: way });
    keep(next);
    setPicked([]);
  };
  const pick = (id: string, shift: boolean) =>
    setPicked((old) => (old.includes(id) ? old.filter((other) => other !== id) : shift ? [...old, id] : [id]));
  const startFrom = (start: Equations) => {
    dispatch({ do: 'change', to: start.text });
    keep(start.text, { from: start.from, to: start.to });
    setPicked([]);
  };
  return {
    ...{ history, text, read, diagram, picked },
    ...{ keep, type, change, step, pick, startFrom },
    pause: () => dispatch({ do: 'pause' }),
  };
}

type Workshop = ReturnType<typeof useWorkshop>;

function Toolbar({
  name,
  workshop,
  view,
  onView,
}: {
  name: string;
  workshop: Workshop;
  view: View;
  onView: (view: View) => void;
}) {
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-5 py-2.5">
      <Dialog.Title className="font-serif text-[19px]">Diagram of {name}</Dialog.Title>
      <select
        aria-label="Start from"
        className="input w-auto px-1.5 py-1 text-[13px]"
        value=""
        onChange={(event) => {
          const start = startingPoints.find((candidate) => candidate.name === event.target.value);
          if (!start) return;
          workshop.startFrom(start);
        }}
      >
        <option value="">start from …</option>
        {startingPoints.map((start) => (
          <option key={start.name}>{start.name}</option>
        ))}
      </select>
      <Button look="quiet" disabled={workshop.history.past.length === 0} onClick={() => workshop.step('undo')}>
        Undo
      </Button>
      <Button look="quiet" disabled={workshop.history.future.length === 0} onClick={() => workshop.step('redo')}>
        Redo
      </Button>
      <div role="group" aria-label="View" className="flex gap-3">
        {(Object.keys(views) as View[]).map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={view === each}
            className={`link ${view === each ? 'font-medium text-ink decoration-ink' : ''}`}
            onClick={() => onView(each)}
          >
            {views[each]}
          </button>
        ))}
      </div>
      <Dialog.Close asChild>
        <Button look="strong" className="ml-auto">
          Done
        </Button>
      </Dialog.Close>
    </header>
  );
}

/** The equations as text, the pair that is asked about, and its transfer function. */
function EquationFields({ workshop, equations }: { workshop: Workshop; equations: Equations }) {
  const { text, read, diagram } = workshop;
  return (
    <div className="grid content-start gap-3">
      <label className="text-note text-slate">
        Signal equations, one a line; bindings after “where”
        <textarea
          className="input mt-1 font-mono text-[13px]"
          rows={11}
          maxLength={4000}
          spellCheck={false}
          aria-invalid={read instanceof Problem}
          value={text}
          onBlur={workshop.pause}
          onChange={(event) => workshop.type(event.target.value)}
        />
      </label>
      {read instanceof Problem && (
        <p role="alert" className="text-note text-brick">
          {read.message}
        </p>
      )}
      {diagram && <PairFields diagram={diagram} equations={equations} onChange={(pair) => workshop.keep(text, pair)} />}
      {diagram && !(read instanceof Problem) && <Result equations={{ ...equations, text }} />}
    </div>
  );
}

/** The drawing with what can be done to it, its paths and loops, or its reduction. */
function Shown({
  name,
  workshop,
  equations,
  view,
}: {
  name: string;
  workshop: Workshop;
  equations: Equations;
  view: View;
}) {
  const { read, diagram, picked } = workshop;
  const [drawing, setDrawing] = useState<Drawing>();
  const line = drawing?.lines.find(({ id }) => id === picked[0]);
  const gestures =
    diagram && !(read instanceof Problem) ? gesturesFor(diagram, picked, picked.length === 1 ? line : undefined) : [];
  const chosen = diagram && drawing ? picked.map((id) => wordsFor(diagram, drawing, id)).join('; ') : '';
  return (
    <div className="@container grid min-h-0 content-start gap-3">
      {diagram && view === 'paths' && <PathPanel diagram={diagram} pair={equations} />}
      {diagram && view === 'key' && <KeyPanel diagram={diagram} pair={equations} />}
      {view !== 'draw' ? null : diagram ? (
        <DiagramView
          title={`Diagram of ${name}`}
          diagram={diagram}
          outputs={[equations.to]}
          picked={picked}
          lines
          onPick={(id, shown, shift) => {
            setDrawing(shown);
            workshop.pick(id, shift);
          }}
          className="h-[clamp(240px,56vh,620px)]"
        />
      ) : (
        <p className="text-slate">The drawing appears when the equations can be read.</p>
      )}
      {view === 'draw' && (
        <GestureBar key={picked.join()} gestures={gestures} chosen={chosen} onChange={workshop.change} />
      )}
    </div>
  );
}

function readText(text: string, from: string): BlockDiagram | Problem {
  return orProblem(() => {
    const diagram = readBlocks(text);
    return diagram.inputs.includes(from) || diagram.nodes.some(({ id }) => id === from)
      ? diagram
      : readBlocks(text, [from]);
  });
}

function wordsFor(diagram: BlockDiagram, drawing: Drawing, id: string): string {
  const line = drawing.lines.find((candidate) => candidate.id === id);
  if (line) return lineWords(diagram, line);
  const shape = drawing.shapes.find((candidate) => candidate.id === id);
  return shape && diagram.nodes.concat().some((node) => node.id === id || shape.kind !== 'block')
    ? shapeWords(diagram, shape)
    : '';
}

function PairFields({
  diagram,
  equations: { from, to },
  onChange,
}: {
  diagram: BlockDiagram;
  equations: Equations;
  onChange: (pair: { from?: string; to?: string }) => void;
}) {
  const signals = diagram.nodes.map(({ id }) => id).filter((id) => !id.startsWith('#'));
  const field = (label: string, value: string, options: readonly string[], set: (value: string) => void) => (
    <label className="text-note text-slate">
      {label}
      <select className="input mt-1 px-1.5 py-1" value={value} onChange={(event) => set(event.target.value)}>
        {[...new Set([value, ...options])].map((option) => (
          <option key={option}>{option}</option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="grid grid-cols-2 gap-2">
      {field('From the input', from, diagram.inputs, (value) => onChange({ from: value }))}
      {field('to the signal', to, signals, (value) => onChange({ to: value }))}
    </div>
  );
}

const longestShown = 3000;

/** The transfer function that is asked for, exact, letters kept. */
function Result({ equations }: { equations: Equations }) {
  const { text, from, to } = useSettled(equations, 200);
  const shown = useMemo(() => {
    try {
      return { latex: symbolicToLatex(exactTransfer(exactQuestion(readWith(text, {}, [from])), { from, to })) };
    } catch (error) {
      if (error instanceof Problem) return { problem: error.message };
      throw error;
    }
  }, [text, from, to]);
  if (shown.problem !== undefined) return <p className="text-note text-brick">{shown.problem}</p>;
  if (shown.latex.length > longestShown) {
    return (
      <p className="text-note text-slate">The transfer function is too long to be read; group parts of the diagram.</p>
    );
  }
  return (
    <div className="overflow-x-auto overflow-y-hidden py-1">
      <Formula latex={`\\displaystyle \\frac{${nameToLatex(to)}}{${nameToLatex(from)}}=${shown.latex}`} />
    </div>
  );
}

import { type Bench, inPoints, type Samples, type Scope, type StudentPart } from '@nailset/core';
import { type Dispatch, useEffect, useRef } from 'react';
import { studentKind } from '../kinds/students';
import type { Work, WorkAction } from '../loop/action';
import { NailMark } from '../shared/NailMark';
import { SymbolStrip } from '../shared/SymbolStrip';
import { Statement } from '../statement/Statement';
import { FigurePlot } from './FigurePlot';
import { Hints } from './Hints';
import { type PartState, usePartState } from './partState';
import { WorkingNote } from './WorkingNote';

interface Shown {
  readonly bench: Bench;
  readonly part: StudentPart;
  readonly scope: Scope;
  readonly work: Work;
  readonly dispatch: Dispatch<WorkAction>;
  /** Whether the bench listens to the keyboard as a whole. */
  readonly keys: boolean;
  /** Hands in what stands there, by Enter in a field that is the whole answer. */
  readonly onEnter: (() => void) | undefined;
}

const noCurves: Samples[] = [];

/** The bench of one part, with its curves, its hints and, once it may be seen, the way to the answer. */
export function PartBench({
  state,
  together = false,
  isOpen = true,
  ...shown
}: Shown & { state: PartState; together?: boolean; isOpen?: boolean }) {
  const { bench, part, scope, work, dispatch, keys, onEnter } = shown;
  const { Bench: OwnBench, entersByKey, symbols } = studentKind(part);
  const { answer, live, last, solution, revealed, attempts } = state;
  const ofPart = ({ partId }: { partId: string }): boolean => partId === part.id;
  const curves = bench.revealed.find(ofPart)?.curves ?? noCurves;
  return (
    <div
      className="group/typed"
      data-open={isOpen ? '' : undefined}
      onKeyDown={(event) => {
        const isLine = (event.target as HTMLElement).matches('input:not([type=radio], [type=checkbox])');
        if (event.key !== 'Enter' || !entersByKey || !isLine || event.nativeEvent.isComposing) return;
        event.preventDefault();
        onEnter?.();
      }}
    >
      {live && !live.response && <p className="text-brick">{live.problem?.message}</p>}
      <OwnBench
        key={part.id}
        {...{ part, answer, bench, scope, work, dispatch, live, last, solution, keys, revealed, together }}
        onChange={(next) => dispatch({ do: 'answer', part: part.id, answer: next })}
      />
      <SymbolStrip symbols={symbols} />
      {part.figure && (
        <FigurePlot
          key={`figure ${part.id} ${curves.length}`}
          figure={part.figure}
          revealed={curves}
          measured={bench.measured.find(ofPart)?.curves}
          committed={attempts.length > 0}
        />
      )}
      {part.hints && bench.mayHandIn && <Hints bench={bench} part={part} />}
      {bench.working && <WorkingNote key={`working ${part.id}`} exerciseId={bench.exerciseId} part={part} />}
    </div>
  );
}

/** One of several small parts on a sheet: what is asked, its bench, and what came of the last try. */
export function PartSection({
  letter,
  isOpen,
  closed,
  onOpen,
  ...shown
}: Shown & { letter: string; isOpen: boolean; closed: boolean; onOpen: () => void }) {
  const { bench, work, part, scope } = shown;
  // The same component whether it is open or not, so that a field keeps focus and text when it opens.
  const state = usePartState(bench, work, part, scope, closed);
  const { last } = state;
  const place = useRef<HTMLElement>(null);
  const isFirst = useRef(true);
  useEffect(() => {
    const [first, now] = [isFirst.current, place.current];
    isFirst.current = false;
    // The list of parts leads here, and so does an address; whoever types here is here already.
    if (!isOpen || !now || now.contains(document.activeElement)) return;
    if (!first) now.scrollIntoView({ block: 'nearest' });
    else if (now.previousElementSibling) now.scrollIntoView({ block: 'start' });
  }, [isOpen]);
  const met = last?.verdict?.met;
  return (
    <section
      ref={place}
      aria-label={`${letter}) ${part.title}`}
      data-part={part.id}
      onFocusCapture={isOpen ? undefined : onOpen}
      // Not where a pointer goes down: what moves the page between down and up takes the click away.
      onClickCapture={isOpen ? undefined : onOpen}
      className={`scroll-mt-4 border-l-2 py-4 pl-4 not-first:border-t not-first:border-t-rule ${isOpen ? 'border-l-petrol' : 'border-l-transparent'}`}
    >
      <h2 className="flex items-baseline gap-2 font-medium">
        <span className="text-slate">{letter})</span> {part.title}
        <span className="text-note font-normal text-slate">{inPoints(part.points)}</span>
      </h2>
      <div className="mb-2">
        <Statement text={part.prompt} />
      </div>
      <PartBench {...shown} {...{ state, isOpen }} together />
      {last?.verdict && (
        <p role="status" className={`mt-2 flex max-w-3xl gap-2 text-[13px] ${met ? 'text-moss' : 'text-brick'}`}>
          <NailMark state={met ? 'held' : 'missed'} />
          <span>
            {last.verdict.words}
            {last.verdict.slip && <span className="text-ink"> {last.verdict.slip.words}</span>}
          </span>
        </p>
      )}
    </section>
  );
}

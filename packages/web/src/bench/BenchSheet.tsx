import {
  type Answer,
  type Bench,
  must,
  nameToLatex,
  parametersOf,
  type Scope,
  type StudentPart,
  transferOf,
  type VerdictItem,
} from '@nailset/core';
import isEqual from 'fast-deep-equal';
import { Fragment, memo, type ReactNode, type RefObject, Suspense, useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { Work, WorkAction } from '../loop/action';
import { measuresAStep } from '../plot/limits';
import { useFocusOnMore } from '../shared/focus';
import { Formula } from '../shared/Formula';
import { useSteady } from '../shared/useLatest';
import { ShownContext, Statement } from '../statement/Statement';
import { HandInBar } from './HandInBar';
import { KeysDialog } from './KeysDialog';
import { NailRail } from './NailRail';
import { OpenBenchLink } from './OpenBenchLink';
import { PartBench, PartSection } from './PartSection';
import { nextOpen, type PartState, partsTogether, usePartState } from './partState';
import { Tries } from './Tries';

/** What the sheet does beyond showing: handing in, and what came of the last time. Left out in the builder's preview. */
export interface HandingIn {
  readonly busy: boolean;
  readonly error: string | undefined;
  /** Nothing is taken any more, not even late. */
  readonly closed: boolean;
  /** What handing in now is worth, where that is less than before. */
  readonly worth: string;
  readonly handIn: (part: StudentPart, answer: Answer) => void;
  /** Nothing counts: it is checked as often as wished. */
  readonly ungraded?: boolean;
}

/**
 * The bench itself: statement and parts, the open part in the middle, nails and tries on the right, hand-in bar at the
 * foot. It follows the width of its own place, so that the builder can show it beside the exercise.
 */
export function BenchSheet({
  bench,
  work,
  dispatch,
  handing,
  below,
  more,
  isBeside = false,
  keys = handing !== undefined,
}: {
  bench: Bench;
  work: Work;
  dispatch: (action: WorkAction) => void;
  handing?: HandingIn | undefined;
  /** What stands below the bench. */
  below?: ReactNode;
  /** What stands below the tries. */
  more?: ReactNode;
  /** Whether the page is about something else, which it stands beside. */
  isBeside?: boolean;
  /** Whether the bench listens to the keyboard as a whole. */
  keys?: boolean;
}) {
  const [keysShown, setKeysShown] = useState(false);
  const [folded, setFolded] = useState(false);
  const part = bench.parts.find(({ id }) => id === work.open) ?? must(bench.parts[0]);
  const Title = isBeside ? 'h2' : 'h1';
  const scope = useMemo<Scope>(() => lettersOf(bench), [bench]);
  const closed = handing?.closed ?? false;
  const state = usePartState(bench, work, part, scope, closed);
  const { readable, attempts, triesLeft, isSolved, blocked, live } = state;
  const together = partsTogether(bench, part.id);
  const solutions = useMemo(() => withCurvesOnce(bench.solutions), [bench.solutions]);
  useQuestionMark(keys, () => setKeysShown(true));
  const handed = useFocusOnMore(attempts.length, part.id);
  const next = isSolved ? nextOpen(bench, part.id) : undefined;
  const handInOf = (part: StudentPart, { answer, blocked: because }: PartState) =>
    handing && !because && !handing.busy ? () => handing.handIn(part, answer) : undefined;
  const items = live?.response?.verdict.items;
  const letterOf = ({ id }: StudentPart) => String.fromCharCode(97 + bench.parts.findIndex((each) => each.id === id));
  const bar = (
    <HandInBar
      answer={readable.shown}
      words={[readable.words, handing?.worth].filter(Boolean).join(' ')}
      of={together.length > 1 ? `${letterOf(part)})` : ''}
      triesLeft={handing?.ungraded ? '' : triesLeft === 1 ? '1 try left' : `${triesLeft} tries left`}
      blocked={handing ? blocked : ''}
      busy={handing?.busy ?? false}
      error={handing?.error}
      handInWords={handing?.ungraded ? 'Check' : 'Hand in'}
      onHandIn={handing && (() => handing.handIn(part, state.answer))}
      onNext={next === undefined ? undefined : () => dispatch({ do: 'open', part: next })}
      onKeys={() => setKeysShown(true)}
    />
  );
  const shared = { bench: together.length > 1 ? { ...bench, solutions } : bench, scope, work, dispatch, keys };

  return (
    <ShownContext value={bench}>
      <div className="@container flex min-h-0 flex-1 flex-col">
        <div className="grid flex-1 content-start @min-[900px]:grid-cols-[248px_1fr_252px] @min-[900px]:content-stretch">
          <aside aria-label="What is asked" className="border-rule @max-[900px]:border-b @min-[900px]:border-r">
            <div className="px-5 py-5 @min-[900px]:sticky @min-[900px]:top-0 @min-[900px]:max-h-[calc(100dvh-54px)] @min-[900px]:overflow-y-auto">
              <div className="mb-3 flex items-baseline justify-between gap-3">
                <Title className="font-serif text-[21px] leading-[1.25]">{bench.title}</Title>
                <button
                  type="button"
                  className="link shrink-0 text-[13px] @min-[900px]:hidden"
                  aria-expanded={!folded}
                  onClick={() => setFolded(!folded)}
                >
                  {folded ? 'Unfold' : 'Fold'}
                </button>
              </div>
              <div className={folded ? '@max-[900px]:hidden' : ''}>
                <Statement text={bench.statement} />
                <Given parameters={bench.parameters} />
                <OpenBenchLink systems={bench.open} title={bench.title} />
              </div>
              <PartList bench={bench} open={part.id} together={together.length > 1} dispatch={dispatch} />
            </div>
          </aside>
          <div className="min-w-0 px-[18px] py-5">
            {/* All of a sheet at once, so that an address leads to its part and nothing moves it away. */}
            <Suspense fallback={null}>
              {together.length > 1 ? (
                together.map((each) => (
                  <PartSection
                    key={each.id}
                    {...shared}
                    {...{ part: each, letter: letterOf(each), isOpen: each.id === part.id, closed }}
                    onOpen={() => dispatch({ do: 'open', part: each.id })}
                    onEnter={each.id === part.id ? handInOf(part, state) : undefined}
                  />
                ))
              ) : (
                <>
                  <div className="mb-3 @min-[900px]:hidden">
                    {bench.parts.length > 1 && <h2 className="font-medium">{part.title}</h2>}
                    <Statement text={part.prompt} />
                  </div>
                  <PartBench key={part.id} {...shared} part={part} state={state} onEnter={handInOf(part, state)} />
                </>
              )}
              {below}
            </Suspense>
          </div>
          <Outcome {...{ bench, part, attempts, items, handed, more }} ungraded={handing?.ungraded ?? false} />
        </div>
        {bar}
        <KeysDialog open={keysShown} onOpenChange={setKeysShown} />
      </div>
    </ShownContext>
  );
}

/** The same response stands on a sheet once, however many parts are about it. */
const withCurvesOnce = (solutions: Bench['solutions']): Bench['solutions'] =>
  solutions.map(({ curve, ...solution }, k) => {
    const isShown = solutions.slice(0, k).some((before) => isEqual(before.curve, curve));
    return curve === undefined || isShown ? solution : { ...solution, curve };
  });

/** What answers may use by name: the student's numbers, and blocks that are given. */
function lettersOf({ parameters, blocks }: Pick<Bench, 'parameters' | 'blocks'>): Scope {
  const { names } = parametersOf(Object.fromEntries(parameters.map(({ symbol, value }) => [symbol, value])));
  return { names: new Map([...blocks.map(({ name, text }) => [name, transferOf(text)] as const), ...names]) };
}

const Given = memo(function Given({ parameters }: { parameters: Bench['parameters'] }) {
  if (parameters.length === 0) return null;
  return (
    <p className="mt-3 text-[13px] text-slate">
      Your numbers:{' '}
      {parameters.map(({ symbol, value, unit, meaning }, k) => (
        <Fragment key={symbol}>
          <span title={meaning} className="whitespace-nowrap">
            <Formula latex={nameToLatex(symbol)} className="text-ink" /> {value}
            {unit && ` ${unit}`}
            {k < parameters.length - 1 && ','}
          </span>{' '}
        </Fragment>
      ))}
    </p>
  );
});

/** The parts with their state: done, open, to come. */
const PartList = memo(function PartList({
  bench,
  open,
  together,
  dispatch,
}: {
  bench: Bench;
  open: string;
  /** Whether what is asked stands on the sheet, with other parts. */
  together: boolean;
  dispatch: (action: WorkAction) => void;
}) {
  return (
    <ol
      className="mt-4 border-t border-rule pt-3 @max-[900px]:flex @max-[900px]:flex-wrap @max-[900px]:gap-x-1.5"
      aria-label="Parts"
    >
      {bench.parts.map((part, k) => {
        const best = bench.handedIn.filter(({ partId }) => partId === part.id);
        const done = best.some(({ verdict }) => verdict?.met);
        const active = part.id === open;
        const look = done
          ? 'border-moss text-moss'
          : active
            ? 'border-petrol bg-petrol text-white'
            : 'border-rule text-slate';
        return (
          <li key={part.id}>
            <button
              type="button"
              aria-current={active ? 'step' : undefined}
              onClick={() => dispatch({ do: 'open', part: part.id })}
              className="group grid w-full grid-cols-[20px_1fr] gap-x-2.5 py-2 text-left @max-[900px]:grid-cols-[32px]"
            >
              <span
                className={`grid size-5 place-items-center rounded-full border text-[11px] @max-[900px]:size-8 ${look}`}
              >
                {done ? <span aria-label="done">✓</span> : String.fromCharCode(97 + k)}
              </span>
              <span className={`@max-[900px]:sr-only ${active ? 'font-medium' : 'group-hover:underline'}`}>
                {part.title}
              </span>
            </button>
            {active && !together && (
              <div className="mb-2 pl-[30px] text-[13px] text-slate @max-[900px]:hidden">
                <Statement text={part.prompt} />
              </div>
            )}
          </li>
        );
      })}
    </ol>
  );
});

function useQuestionMark(isOn: boolean, onAsked: () => void): void {
  const ask = useSteady(onAsked);
  useEffect(() => {
    if (!isOn) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key === '?' && !(event.target as HTMLElement).matches('input, textarea')) ask();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [isOn, ask]);
}

/** Nails, tries and what else came of the open part. */
function Outcome({
  bench,
  part,
  attempts,
  items,
  handed,
  more,
  ungraded,
}: {
  bench: Bench;
  part: StudentPart;
  attempts: PartState['attempts'];
  items: readonly VerdictItem[] | undefined;
  /** Has the focus once something was handed in. */
  handed: RefObject<HTMLDivElement | null>;
  more: ReactNode;
  ungraded: boolean;
}) {
  return (
    <aside aria-label="What came of it" className="border-rule @max-[900px]:border-t @min-[900px]:border-l">
      <div className="flex flex-col gap-6 px-5 py-5 @min-[900px]:sticky @min-[900px]:top-0 @min-[900px]:max-h-[calc(100dvh-54px)] @min-[900px]:overflow-y-auto">
        {items && <NailRail items={items} onStep={part.kind === 'gains' && measuresAStep(part)} />}
        <div ref={handed} tabIndex={-1} className="outline-none">
          <Tries attempts={attempts} version={bench.version} title={ungraded ? 'Checked' : 'Handed in'} />
        </div>
        {more}
        {bench.practice.includes(part.id) && (
          <p className="text-[13px]">
            <Link className="link" to={`/exercises/${bench.exerciseId}/practice/${part.id}`}>
              Practise with other numbers
            </Link>
          </p>
        )}
        {attempts.length === 0 && !items && !more && (
          <p className="text-[13px] text-slate">Your tries and what they met will stand here.</p>
        )}
      </div>
    </aside>
  );
}

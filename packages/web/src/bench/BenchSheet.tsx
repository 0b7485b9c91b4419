import {
  type Answer,
  type Bench,
  must,
  nameToLatex,
  parametersOf,
  type Scope,
  type StudentPart,
  transferOf,
} from '@nailset/core';
import { Fragment, memo, Suspense, useEffect, useMemo, useState } from 'react';
import type { Live, Readable } from '../kinds/kind';
import { readableAnswer, sameAnswer, studentKind } from '../kinds/students';
import type { Work, WorkAction } from '../loop/action';
import { measuresAStep } from '../plot/limits';
import { useFocusOnMore } from '../shared/focus';
import { Formula } from '../shared/Formula';
import { ShownContext, Statement } from '../statement/Statement';
import { useLive } from '../work/useLive';
import { fallbacks } from '../work/work';
import { FigurePlot } from './FigurePlot';
import { HandInBar } from './HandInBar';
import { KeysDialog } from './KeysDialog';
import { NailRail } from './NailRail';
import { OpenBenchLink } from './OpenBenchLink';
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
  keys = handing !== undefined,
}: {
  bench: Bench;
  work: Work;
  dispatch: (action: WorkAction) => void;
  handing?: HandingIn | undefined;
  /** Whether the bench listens to the keyboard as a whole. */
  keys?: boolean;
}) {
  const [keysShown, setKeysShown] = useState(false);
  const part = bench.parts.find(({ id }) => id === work.open) ?? must(bench.parts[0]);
  const answer = must(work.answers[part.id]);
  const scope = useMemo<Scope>(() => lettersOf(bench), [bench]);
  const live = useLive(part, answer, fallbacks(work, part), bench.series);

  useEffect(() => {
    if (!keys) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key === '?' && !(event.target as HTMLElement).matches('input, textarea')) setKeysShown(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [keys]);

  const attempts = useMemo(() => bench.handedIn.filter(({ partId }) => partId === part.id), [bench.handedIn, part.id]);
  const handed = useFocusOnMore(attempts.length, part.id);
  const left = part.attempts - attempts.filter(({ returned }) => !returned).length;
  const last = attempts.at(-1);
  const readable = readableNow(part, answer, scope, live);
  // After a correction the same answer may be right.
  const same = last?.version === bench.version && sameAnswer(last.answer, answer);
  const blocked = blockedBecause(readable, left, same, handing?.closed);
  const next = same && last?.verdict?.met ? nextOpen(bench, part.id) : undefined;
  const solution = bench.solutions.find(({ partId }) => partId === part.id);
  const bar = (
    <HandInBar
      answer={readable.shown}
      words={[readable.words, handing?.worth].filter(Boolean).join(' ')}
      triesLeft={left === 1 ? '1 try left' : `${left} tries left`}
      blocked={handing ? blocked : ''}
      busy={handing?.busy ?? false}
      error={handing?.error}
      onHandIn={handing && (() => handing.handIn(part, answer))}
      onNext={next === undefined ? undefined : () => dispatch({ do: 'open', part: next })}
      onKeys={() => setKeysShown(true)}
    />
  );
  const revealed = useMemo(
    () => bench.revealed.find(({ partId }) => partId === part.id)?.curves ?? [],
    [bench.revealed, part.id],
  );
  const items = live?.response?.verdict.items;
  const { Bench: OwnBench } = studentKind(part);

  return (
    <ShownContext value={bench}>
      <div className="@container flex min-h-0 flex-1 flex-col">
        <div className="grid flex-1 content-start @min-[900px]:grid-cols-[248px_1fr_252px] @min-[900px]:content-stretch">
          <aside className="border-rule px-5 py-5 @max-[900px]:border-b @min-[900px]:border-r">
            <h1 className="mb-3 font-serif text-[21px] leading-[1.25]">{bench.title}</h1>
            <Statement text={bench.statement} />
            <Given parameters={bench.parameters} />
            <OpenBenchLink systems={bench.open} title={bench.title} />
            <PartList bench={bench} open={part.id} dispatch={dispatch} />
          </aside>
          <div className="min-w-0 px-[18px] py-5">
            {bench.parts.length > 1 && <p className="mb-3 max-w-3xl text-slate @min-[900px]:hidden">{part.title}</p>}
            {live && !live.response && <p className="text-brick">{live.problem?.message}</p>}
            <Suspense fallback={null}>
              <OwnBench
                key={part.id}
                {...{ part, answer, bench, scope, work, dispatch, live, last, solution, keys }}
                revealed={left <= 0 || solution !== undefined || attempts.some(({ verdict }) => verdict?.met)}
                onChange={(next) => dispatch({ do: 'answer', part: part.id, answer: next })}
              />
            </Suspense>
            {part.figure && (
              <FigurePlot
                key={`figure ${part.id} ${revealed.length}`}
                figure={part.figure}
                revealed={revealed}
                committed={attempts.length > 0}
              />
            )}
          </div>
          <aside className="flex flex-col gap-6 border-rule px-5 py-5 @max-[900px]:border-t @min-[900px]:border-l">
            {items && <NailRail items={items} onStep={part.kind === 'gains' && measuresAStep(part)} />}
            <div ref={handed} tabIndex={-1} className="outline-none">
              <Tries attempts={attempts} version={bench.version} />
            </div>
            {attempts.length === 0 && !items && (
              <p className="text-[13px] text-slate">Your tries and what they met will stand here.</p>
            )}
          </aside>
        </div>
        {bar}
        <KeysDialog open={keysShown} onOpenChange={setKeysShown} />
      </div>
    </ShownContext>
  );
}

/** How an answer reads; one that is set on a ladder, by what it gives. */
function readableNow(part: StudentPart, answer: Answer, scope: Scope, live: Live | undefined): Readable {
  const read = readableAnswer(part, answer, scope);
  if (!live) return read;
  const { response, problem } = live;
  return { shown: null, words: response?.verdict.words ?? '', problem: problem?.message ?? read.problem };
}

/** The first part after this one, and then from the top, that is not solved and has tries left. */
function nextOpen({ parts, handedIn }: Bench, partId: string): string | undefined {
  const at = parts.findIndex(({ id }) => id === partId);
  const isOpen = ({ id, attempts }: StudentPart): boolean => {
    const own = handedIn.filter((attempt) => attempt.partId === id);
    return !own.some(({ verdict }) => verdict?.met) && own.filter(({ returned }) => !returned).length < attempts;
  };
  return [...parts.slice(at + 1), ...parts.slice(0, at)].find(isOpen)?.id;
}

function blockedBecause(readable: Readable, left: number, same: boolean, closed = false): string {
  if (closed) return 'The due date has passed.';
  if (left <= 0) return 'All tries are used; your best one counts.';
  if (readable.problem) return readable.problem;
  if (same) return 'This is what you handed in. Another answer is another try.';
  return '';
}

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
  dispatch,
}: {
  bench: Bench;
  open: string;
  dispatch: (action: WorkAction) => void;
}) {
  return (
    <ol className="mt-4 border-t border-rule pt-3" aria-label="Parts">
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
              className="group grid w-full grid-cols-[20px_1fr] gap-x-2.5 py-2 text-left"
            >
              <span className={`grid size-5 place-items-center rounded-full border text-[11px] ${look}`}>
                {done ? <span aria-label="done">✓</span> : String.fromCharCode(97 + k)}
              </span>
              <span className={active ? 'font-medium' : 'group-hover:underline'}>{part.title}</span>
            </button>
            {active && (
              <div className="mb-2 pl-[30px] text-[13px] text-slate">
                <Statement text={part.prompt} />
              </div>
            )}
          </li>
        );
      })}
    </ol>
  );
});

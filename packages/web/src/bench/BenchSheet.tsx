import {
  type Answer,
  type Bench,
  type Scope,
  type StudentPart,
  inputLine,
  nameToLatex,
  parametersOf,
  transferOf,
} from '@nailset/core';
import { Fragment, Suspense, lazy, memo, useEffect, useMemo, useState } from 'react';
import { Formula } from '../shared/Formula';
import { ShownContext, Statement } from '../shared/Statement';
import { ChoiceBench } from './ChoiceBench';
import { CurveBench } from './CurveBench';
import { FigurePlot } from './FigurePlot';
import { GainsBench } from './GainsBench';
import { HandInBar } from './HandInBar';
import { KeysDialog } from './KeysDialog';
import { measuresAStep } from '../plot/limits';
import { NailRail } from './NailRail';
import { NumberBench, RangeBench, TransferFunctionBench } from './TypedBench';
import { TrendBench } from './TrendBench';
import { Tries } from './Tries';
import { type Readable, readableAnswer } from './readable';
import { useLive } from './useLive';
import { type Work, type WorkAction, fallbacks, sameAnswer } from './work';

// Diagrams come with a layout library of their own size, so they are loaded when a part has one.
const DiagramBench = lazy(async () => ({ default: (await import('./DiagramBench')).DiagramBench }));
const PathsBench = lazy(async () => ({ default: (await import('./DiagramBench')).PathsBench }));
const BodeBench = lazy(() => import('./BodeBench'));
const PointsBench = lazy(() => import('./PointsBench'));
const StatesBench = lazy(async () => ({ default: (await import('./DiagramBench')).StatesBench }));
const ReductionBench = lazy(async () => ({ default: (await import('../ledger/ReductionBench')).ReductionBench }));

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
  const part = bench.parts.find(({ id }) => id === work.open) ?? bench.parts[0]!;
  const answer = work.answers[part.id]!;
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
  const left = part.attempts - attempts.length;
  const last = attempts.at(-1);
  const readable = readableAnswer(part, answer, scope, live);
  const blocked = blockedBecause(
    readable,
    left,
    last !== undefined && sameAnswer(last.answer, answer),
    handing?.closed,
  );
  const type = (text: string) => dispatch({ do: 'type', part: part.id, text });
  const give = (next: Answer) => dispatch({ do: 'answer', part: part.id, answer: next });
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
      onKeys={() => setKeysShown(true)}
    />
  );
  const text = 'text' in answer ? answer.text : '';
  const typed = { text, scope, solution, onChange: type };
  const revealed = useMemo(
    () => bench.revealed.find(({ partId }) => partId === part.id)?.curves ?? [],
    [bench.revealed, part.id],
  );
  const items = live?.response?.verdict.items;

  return (
    <ShownContext value={bench}>
      <div className="@container flex min-h-0 flex-1 flex-col">
        <div className="grid flex-1 content-start @min-[900px]:grid-cols-[248px_1fr_252px] @min-[900px]:content-stretch">
          <aside className="border-rule px-5 py-5 @max-[900px]:border-b @min-[900px]:border-r">
            <h1 className="mb-3 font-serif text-[21px] leading-[1.25]">{bench.title}</h1>
            <Statement text={bench.statement} />
            <Given parameters={bench.parameters} />
            <PartList bench={bench} open={part.id} dispatch={dispatch} />
          </aside>
          <div className="min-w-0 px-[18px] py-5">
            {bench.parts.length > 1 && <p className="mb-3 max-w-3xl text-slate @min-[900px]:hidden">{part.title}</p>}
            {live && !live.response && <p className="text-brick">{live.problem?.message}</p>}
            {part.kind === 'gains' && live?.kind === 'gains' && live.response && (
              <GainsBench
                key={part.id}
                part={part}
                work={work}
                dispatch={dispatch}
                responses={live.responses}
                response={live.response}
                keys={keys}
              />
            )}
            {part.kind === 'curve' && live?.kind === 'curve' && live.response && (
              <CurveBench
                key={part.id}
                part={part}
                reference={inputLine(part.input, bench.series, part.horizon)}
                work={work}
                dispatch={dispatch}
                responses={live.responses}
                response={live.response}
                keys={keys}
              />
            )}
            {part.kind === 'transferFunction' && <TransferFunctionBench key={part.id} part={part} {...typed} />}
            {part.kind === 'number' && <NumberBench key={part.id} part={part} {...typed} />}
            {part.kind === 'range' && <RangeBench key={part.id} part={part} {...typed} />}
            {part.kind === 'choice' && answer.kind === 'choice' && (
              <ChoiceBench key={part.id} part={part} chosen={answer.chosen} solution={solution} dispatch={dispatch} />
            )}
            {part.kind === 'trend' && answer.kind === 'trend' && (
              <TrendBench key={part.id} part={part} cells={answer.cells} solution={solution} dispatch={dispatch} />
            )}
            <Suspense fallback={null}>
              {part.kind === 'diagram' && answer.kind === 'diagram' && (
                <DiagramBench
                  key={part.id}
                  part={part}
                  parameters={bench.parameters}
                  texts={answer.texts}
                  last={last}
                  solution={solution?.text}
                  onChange={(texts) => give({ kind: 'diagram', texts })}
                />
              )}
              {part.kind === 'paths' && answer.kind === 'paths' && (
                <PathsBench key={part.id} part={part} text={text} solution={solution?.text} onChange={type} />
              )}
              {part.kind === 'bode' && live?.kind === 'bode' && live.response && (
                <BodeBench
                  key={part.id}
                  part={part}
                  work={work}
                  dispatch={dispatch}
                  responses={live.responses}
                  response={live.response}
                  keys={keys}
                />
              )}
              {part.kind === 'points' && (
                <PointsBench
                  key={part.id}
                  part={part}
                  text={text}
                  revealed={left <= 0 || solution !== undefined || attempts.some(({ verdict }) => verdict?.met)}
                  solution={solution?.text}
                  onChange={type}
                />
              )}
              {part.kind === 'states' && answer.kind === 'states' && (
                <StatesBench
                  key={part.id}
                  matrices={answer}
                  solution={solution?.text}
                  onChange={({ a, b, c, d }) => give({ kind: 'states', a, b, c, d })}
                />
              )}
              {part.kind === 'reduction' && answer.kind === 'reduction' && (
                <ReductionBench
                  key={part.id}
                  part={part}
                  steps={answer.steps}
                  solution={solution?.text}
                  onChange={(steps) => give({ kind: 'reduction', steps: [...steps] })}
                />
              )}
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
            <Tries attempts={attempts} version={bench.version} />
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

function blockedBecause(readable: Readable, left: number, same: boolean, closed = false): string {
  if (closed) return 'The due date has passed.';
  if (left <= 0) return 'All tries are used; your best one counts.';
  if (readable.problem) return readable.problem;
  if (same) return 'This is what you handed in. Change it to try again.';
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

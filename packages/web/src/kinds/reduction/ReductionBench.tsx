import { must, orElse, parse, Problem, type ReductionStep, type StudentPart } from '@nailset/core';
import { type BlockDiagram, isSameGain, type Move, movesWith, moveWords, reducedGain } from '@nailset/core/diagrams';
import isEqual from 'fast-deep-equal';
import { type FormEvent, useMemo, useState } from 'react';
import { DiagramView } from '../../diagram/DiagramView';
import { Expected } from '../../diagram/Expected';
import { LettersField } from '../../diagram/LettersField';
import { LedgerList } from '../../ledger/LedgerList';
import { useLedger } from '../../ledger/useLedger';
import { Button } from '../../shared/Button';

type Part = Extract<StudentPart, { kind: 'reduction' }>;

/** The picture, the moves that are legal with what is chosen on it, and the ledger of those made. */
export default function ReductionBench({
  part,
  steps,
  solution,
  onChange,
}: {
  part: Part;
  steps: readonly ReductionStep[];
  solution: string | undefined;
  onChange: (steps: readonly ReductionStep[]) => void;
}) {
  const { start, lines } = useLedger(part, steps);
  const [back, setBack] = useState<number>();
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [typing, setTyping] = useState<Move>();
  // Ways that were left for another one.
  const [ways, setWays] = useState<readonly (readonly ReductionStep[])[]>([]);
  const [pointed, setPointed] = useState<readonly string[]>();
  const at = Math.min(back ?? lines.length, lines.length);
  const now = at === 0 ? start : must(lines[at - 1]).move.after;
  const shown = at === 0 ? start : must(lines[at - 1]).shown;
  const done = reducedGain(now, part) !== null;
  const moves = useMemo(
    () => (picked.length === 0 ? [] : movesWith(now, new Set([part.to]), picked)),
    [now, part.to, picked],
  );

  const go = (to: number) => {
    setBack(to);
    setPicked([]);
    setTyping(undefined);
  };
  const make = (move: Move, gain?: string) => {
    const step: ReductionStep = { kind: move.kind, of: [...move.of], ...(gain === undefined ? {} : { gain }) };
    if (at < steps.length && !isEqual(steps[at], step)) setWays((old) => [...old, steps]);
    onChange([...steps.slice(0, at), step]);
    setBack(undefined);
    setPicked([]);
    setTyping(undefined);
    setPointed(undefined);
  };
  const take = (move: Move) => (part.typed !== 'no' && move.gain !== undefined ? setTyping(move) : make(move));
  const pick = (id: string) => {
    if (!now.nodes.some((node) => node.id === id)) return;
    setTyping(undefined);
    setPicked((old) => (old.includes(id) ? old.filter((other) => other !== id) : [...old, id].slice(-2)));
  };

  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <DiagramView
        title={`Block diagram, ${part.from} to ${part.to}, after ${at} steps`}
        diagram={shown}
        outputs={[part.to]}
        picked={pointed ?? picked}
        onPick={pick}
        className="h-[clamp(200px,38vh,380px)]"
      />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-5 @min-[700px]:grid-cols-2">
        <section aria-label="Moves">
          <h2 className="caption mb-2">Moves</h2>
          {done ? (
            <p>One block is left: hand it in, or go back in the ledger.</p>
          ) : (
            <Moves {...{ moves, now, typing }} anyPicked={picked.length > 0} onTake={take} onPoint={setPointed} />
          )}
          {typing && (
            <TypedStep
              key={`${typing.kind} ${typing.of.join(' ')}`}
              move={typing}
              atOnce={part.typed === 'atOnce'}
              onMake={(gain) => make(typing, gain)}
            />
          )}
        </section>
        <section aria-label="Steps">
          <div className="mb-2 flex items-baseline gap-3">
            <h2 className="caption">Ledger</h2>
            <Button look="quiet" className="ml-auto py-0" disabled={at === 0} onClick={() => go(at - 1)}>
              Undo
            </Button>
            <Button look="quiet" className="py-0" disabled={at === lines.length} onClick={() => go(at + 1)}>
              Redo
            </Button>
            <OtherWays
              ways={ways}
              onTake={(way) => {
                setWays((old) => [...old.filter((each) => each !== way), steps]);
                onChange(way);
                go(way.length);
              }}
            />
          </div>
          <LedgerList lines={lines} at={at} onGo={go} />
          {at < lines.length && (
            <p className="mt-2 text-note text-slate">
              What is handed in is the whole ledger; a move from here takes another way.
            </p>
          )}
        </section>
      </div>
      {solution && <Expected latex={solution} />}
    </div>
  );
}

/** The moves that are legal with what is chosen on the picture. */
function Moves({
  moves,
  now,
  typing,
  anyPicked,
  onTake,
  onPoint,
}: {
  moves: readonly Move[];
  now: BlockDiagram;
  typing: Move | undefined;
  anyPicked: boolean;
  onTake: (move: Move) => void;
  /** Marks on the picture what a move is about. */
  onPoint: (ids: readonly string[] | undefined) => void;
}) {
  if (!anyPicked) return <p className="text-slate">Choose one or two parts of the picture.</p>;
  if (moves.length === 0) {
    return <p className="text-slate">No move is legal with these. Choose others, or only one to see its moves.</p>;
  }
  return (
    <ul className="flex flex-wrap gap-1.5">
      {moves.map((move) => (
        <li key={`${move.kind} ${move.of.join(' ')}`}>
          <Button
            className={`px-2.5 py-1 text-left text-[13px] whitespace-normal! ${typing === move ? 'border-petrol' : ''}`}
            onClick={() => onTake(move)}
            onPointerEnter={() => onPoint(move.of)}
            onPointerLeave={() => onPoint(undefined)}
            onFocus={() => onPoint(move.of)}
            onBlur={() => onPoint(undefined)}
          >
            {moveWords(now, move)}
          </Button>
        </li>
      ))}
    </ul>
  );
}

/** Ways that were left for another one. */
function OtherWays({
  ways,
  onTake,
}: {
  ways: readonly (readonly ReductionStep[])[];
  onTake: (way: readonly ReductionStep[]) => void;
}) {
  return ways.map((way, k) => (
    <Button key={k} look="quiet" className="py-0" onClick={() => onTake(way)}>
      Way {k + 1}
    </Button>
  ));
}

/** What the student says that a step gives; checked at once where the exercise says so. */
function TypedStep({ move, atOnce, onMake }: { move: Move; atOnce: boolean; onMake: (gain: string) => void }) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState('');
  const readable = useMemo(() => {
    return orElse(false, () => {
      parse(text);
      return true;
    });
  }, [text]);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!readable) return;
    try {
      if (atOnce && !isSameGain(text, must(move.gain)))
        return setWrong('That is not what this step gives. Look again at its signs.');
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return setWrong(error.message);
    }
    onMake(text.trim());
  };
  return (
    <form onSubmit={submit} className="mt-3 max-w-md">
      <LettersField
        label="What does it give?"
        text={text}
        onChange={(next) => {
          setText(next);
          setWrong('');
        }}
      />
      {wrong && (
        <p role="alert" className="mb-2 text-note text-brick">
          {wrong}
        </p>
      )}
      <Button type="submit" look="strong" disabled={!readable} className="px-2.5 py-1 text-[13px]">
        Make the step
      </Button>
    </form>
  );
}

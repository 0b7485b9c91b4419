import type { ClassSheet, GainsPart } from '@nailset/core';
import { useMemo } from 'react';
import { Loading } from '../page/states';
import { GainMapPlot } from '../plot/GainMapPlot';
import { notWorkedOut, useWorker } from '../shared/useWorker';
import type { GainMapMessage, GainMapRequest } from './gainMap.worker';
import { firstNameOf, type PartAnswer } from './summary';

/** Everyone's gains on the map around one student's answer: the chosen one, or the first who handed in. */
export function ClassGainMap({
  part,
  sheet,
  answers,
  chosen,
  onChoose,
}: {
  part: GainsPart;
  sheet: ClassSheet;
  answers: readonly PartAnswer[];
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}) {
  const marked = answers.find(({ submissionId }) => submissionId === chosen) ?? answers[0];
  const state = useGainMap(part, sheet, marked);
  if (!marked) return <p className="text-slate">Nobody has handed this part in yet.</p>;
  if (!state) return <Loading what="Trying gains" />;
  if ('problem' in state) return <p className="text-brick">{state.problem}</p>;
  return (
    <div className="grid gap-2">
      <GainMapPlot
        map={state.map}
        nails={part.nails.length}
        chosen={marked.submissionId}
        onPick={onChoose}
        points={answers.flatMap(({ submissionId, name, met, answer }) =>
          answer.kind === 'gains' ? [{ id: submissionId, name, met, settings: answer.gains }] : [],
        )}
      />
      <p className="text-note text-slate">
        Drawn for the numbers of {firstNameOf(marked.name)}; choose another to see theirs.
      </p>
    </div>
  );
}

const start = () => new Worker(new URL('./gainMap.worker.ts', import.meta.url), { type: 'module' });

/** The map, worked out in a worker of its own, or why there is none; undefined until it is there. */
function useGainMap(
  part: GainsPart,
  { systems, series }: ClassSheet,
  chosen: PartAnswer | undefined,
): GainMapMessage | undefined {
  const asked = useMemo<GainMapRequest | undefined>(() => {
    if (chosen?.answer.kind !== 'gains') return undefined;
    return { part, given: { systems, series }, values: chosen.values, settings: chosen.answer.gains };
  }, [part, systems, series, chosen]);
  const last = useWorker<GainMapRequest, GainMapMessage>(start, asked);
  return last && last.of === asked ? (last.answer ?? { problem: notWorkedOut }) : undefined;
}

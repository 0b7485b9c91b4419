import { type ClassSheet, openGains, type Part } from '@nailset/core';
import { useMemo, useState } from 'react';
import { ChoiceCounts } from './ChoiceCounts';
import { ClassGainMap } from './ClassGainMap';
import { FlockPanel } from './FlockPanel';
import { PointsFlock } from './PointsFlock';
import { answersTo } from './summary';

const hasResponse: ReadonlySet<Part['kind']> = new Set(['transferFunction', 'gains', 'curve']);

/** A part as the class answered it: responses, gains on their map, points in the plane, or what was chosen. */
export function PartPanel({
  part,
  sheet,
  chosen,
  onChoose,
}: {
  part: Part;
  sheet: ClassSheet;
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}) {
  const answers = useMemo(() => answersTo(sheet, part.id), [sheet, part.id]);
  const [map, setMap] = useState(false);
  const own = { sheet, chosen, onChoose };
  if (part.kind === 'points') return <PointsFlock {...{ part, answers }} {...own} />;
  if (part.kind === 'choice') return <ChoiceCounts {...{ part, answers }} />;
  if (!hasResponse.has(part.kind)) return null;
  const hasMap = part.kind === 'gains' && openGains(part.controller).length > 1;
  const view = (shown: boolean, words: string) => (
    <button
      type="button"
      aria-pressed={map === shown}
      className={`link ${map === shown ? 'font-medium text-ink decoration-ink' : ''}`}
      onClick={() => setMap(shown)}
    >
      {words}
    </button>
  );
  return (
    <>
      {hasMap && (
        <p role="group" aria-label="View" className="mb-2 flex gap-3 text-[13px]">
          {view(false, 'Responses')}
          {view(true, 'Gain map')}
        </p>
      )}
      {map && part.kind === 'gains' ? (
        <ClassGainMap {...{ part, answers }} {...own} />
      ) : (
        <FlockPanel {...{ part, answers }} {...own} />
      )}
    </>
  );
}

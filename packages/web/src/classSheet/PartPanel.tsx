import { type ClassSheet, type Kind, openGains, type Part, type PartOf } from '@nailset/core';
import { type ComponentType, useMemo, useState } from 'react';
import { ChoiceCounts } from './ChoiceCounts';
import { ClassGainMap } from './ClassGainMap';
import { FlockPanel } from './FlockPanel';
import { PointsFlock } from './PointsFlock';
import { answersTo, type PartAnswer } from './summary';

interface PanelProps<Of extends Part> {
  part: Of;
  answers: readonly PartAnswer[];
  sheet: ClassSheet;
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}

/** How the answers of a class are shown, by kind; other kinds have their lists only. */
const panels: { readonly [K in Kind]?: ComponentType<PanelProps<PartOf<K>>> } = {
  gains: GainsPanel,
  transferFunction: FlockPanel,
  curve: FlockPanel,
  points: PointsFlock,
  choice: ChoiceCounts,
};

/** A part as the class answered it: responses, gains on their map, points in the plane, or what was chosen. */
export function PartPanel({ part, sheet, ...ofKind }: Omit<PanelProps<Part>, 'answers'>) {
  const answers = useMemo(() => answersTo(sheet, part.id), [sheet, part.id]);
  const Panel = panels[part.kind] as unknown as ComponentType<PanelProps<Part>> | undefined;
  return Panel && <Panel {...{ part, answers, sheet }} {...ofKind} />;
}

/** Everyone’s responses or, where more than one gain is set, where on the plane of gains they are. */
function GainsPanel(props: PanelProps<PartOf<'gains'>>) {
  const [map, setMap] = useState(false);
  const hasMap = openGains(props.part.controller).length > 1;
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
      {map ? <ClassGainMap {...props} /> : <FlockPanel {...props} />}
    </>
  );
}

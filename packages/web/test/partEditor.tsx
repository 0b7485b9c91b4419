import type { Part } from '@nailset/core';
import { useState } from 'react';
import { exampleScope } from '../src/builder/exampleScope';
import { newExercise } from '../src/builder/newExercise';
import { PartEditor } from '../src/builder/PartEditor';

/** A part on the editor, which keeps what it is told; `onPart` hears what it has become. */
export function EditedPart({ start, onPart }: { start: Part; onPart: (part: Part) => void }) {
  const [now, setNow] = useState(start);
  onPart(now);
  return (
    <PartEditor
      part={now}
      scope={exampleScope(newExercise())}
      series={[]}
      system="G"
      diagrams={[]}
      findings={[]}
      disabled={false}
      onChange={(next) => setNow({ ...now, ...next } as Part)}
    />
  );
}

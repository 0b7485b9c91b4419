import type { Part, Scope, Series } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';
import { authorKind } from '../kinds/authors';
import { type Drawn, errorOf } from '../kinds/fields/editor';
import type { Changed } from '../shared/changed';
import { TextField } from '../shared/fields';
import { FigureEditor } from './FigureEditor';
import { HintsEditor } from './HintsEditor';

/** One part, open: what is asked, and what is accepted as its answer. */
export function PartEditor({
  part,
  scope,
  series,
  system,
  diagrams,
  findings,
  disabled,
  onChange,
}: {
  part: Part;
  scope: Scope;
  series: readonly Series[];
  /** The system that new curves show. */
  system: string;
  /** Systems in signal equations. */
  diagrams: readonly Drawn[];
  findings: readonly Finding[];
  disabled: boolean;
  onChange: (change: Changed<Part>) => void;
}) {
  const common = { scope, series, diagrams, findings, onChange };
  const { Editor, hasFigure } = authorKind(part);
  return (
    <fieldset disabled={disabled} className="grid gap-3">
      <TextField
        label="Title of the part"
        maxLength={60}
        value={part.title}
        error={errorOf(findings, 'title')}
        onChange={(title) => onChange({ title })}
      />
      <TextField
        label="What to do"
        rows={2}
        maxLength={2000}
        value={part.prompt}
        error={errorOf(findings, 'prompt')}
        onChange={(prompt) => onChange({ prompt })}
      />
      <Editor part={part} {...common} />
      {hasFigure && (
        <FigureEditor
          figure={part.figure}
          scope={scope}
          series={series}
          system={system}
          errorAt={(index) => errorOf(findings, `figure/curves/${index}`)}
          onChange={(figure) => onChange({ figure })}
        />
      )}
      <HintsEditor hints={part.hints} findings={findings} onChange={(hints) => onChange({ hints })} />
    </fieldset>
  );
}

import type { Part, Scope, Series } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';
import { TextField } from './fields';
import { BodeEditor } from './parts/BodeEditor';
import { ChoiceEditor } from './parts/ChoiceEditor';
import { CurveEditor } from './parts/CurveEditor';
import { DiagramEditor, type Drawn, PathsEditor, ReductionEditor } from './parts/DiagramEditors';
import { errorOf } from './parts/editor';
import { FigureEditor } from './parts/FigureEditor';
import { PointsEditor } from './parts/PointsEditor';
import { GainsEditor } from './parts/GainsEditor';
import { TrendEditor } from './parts/TrendEditor';
import { NumberEditor, RangeEditor, StatesEditor, TransferFunctionEditor } from './parts/TypedEditors';

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
  onChange: (change: Partial<Part>) => void;
}) {
  const common = { scope, series, findings, onChange };
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
      {part.kind === 'transferFunction' && <TransferFunctionEditor part={part} {...common} />}
      {part.kind === 'number' && <NumberEditor part={part} {...common} />}
      {part.kind === 'gains' && <GainsEditor part={part} {...common} />}
      {part.kind === 'choice' && <ChoiceEditor part={part} diagrams={diagrams} {...common} />}
      {part.kind === 'trend' && <TrendEditor part={part} {...common} />}
      {part.kind === 'curve' && <CurveEditor part={part} {...common} />}
      {part.kind === 'bode' && <BodeEditor part={part} {...common} />}
      {part.kind === 'diagram' && <DiagramEditor part={part} diagrams={diagrams} {...common} />}
      {part.kind === 'reduction' && <ReductionEditor part={part} diagrams={diagrams} {...common} />}
      {part.kind === 'paths' && <PathsEditor part={part} diagrams={diagrams} {...common} />}
      {part.kind === 'points' && <PointsEditor part={part} {...common} />}
      {part.kind === 'range' && <RangeEditor part={part} {...common} />}
      {part.kind === 'states' && <StatesEditor part={part} {...common} />}
      {!['gains', 'curve', 'bode', 'diagram', 'reduction', 'paths'].includes(part.kind) && (
        <FigureEditor
          figure={part.figure}
          scope={scope}
          series={series}
          system={system}
          errorAt={(index) => errorOf(findings, `figure/curves/${index}`)}
          onChange={(figure) => onChange({ figure: figure as never })}
        />
      )}
    </fieldset>
  );
}

import type { ExerciseDocument, Scope } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';
import { TextField } from '../shared/fields';
import { GuardsEditor } from './given/GuardsEditor';
import { ParametersEditor } from './given/ParametersEditor';
import { PicturesEditor } from './given/PicturesEditor';
import { SystemsEditor } from './given/SystemsEditor';
import { TablesEditor } from './given/TablesEditor';

/** What the student sees and what everything is worked out from: statement, numbers, systems, tables, pictures. */
export function GivenColumn({
  document,
  scope,
  findings,
  disabled,
  edit,
}: {
  document: ExerciseDocument;
  scope: Scope;
  findings: readonly Finding[];
  disabled: boolean;
  edit: (change: (document: ExerciseDocument) => ExerciseDocument) => void;
}) {
  const set = (change: Partial<ExerciseDocument>) => edit((old) => ({ ...old, ...change }));
  return (
    <section aria-label="Given">
      <fieldset disabled={disabled} className="grid content-start gap-4">
        <ColumnTitle title="Given" note="what the student sees" />
        <TextField
          label="Title"
          maxLength={120}
          value={document.title}
          error={findings.find(({ path }) => path === 'title')?.message}
          onChange={(title) => set({ title })}
        />
        <TextField
          label="Statement"
          hint="Markdown; $…$ for formulas, {{a}} for a student’s number, {{G}} for a system."
          rows={9}
          maxLength={8000}
          value={document.statement}
          error={findings.find(({ path }) => path === 'statement')?.message}
          onChange={(statement) => set({ statement })}
        />
        <ParametersEditor
          parameters={document.parameters}
          findings={findings}
          disabled={disabled}
          onChange={(parameters) => set({ parameters })}
        />
        <SystemsEditor
          systems={document.systems}
          scope={scope}
          findings={findings}
          disabled={disabled}
          onChange={(systems) => set({ systems })}
        />
        <GuardsEditor
          guards={document.guards}
          scope={scope}
          findings={findings}
          disabled={disabled}
          onChange={(guards) => set({ guards })}
        />
        <TablesEditor series={document.series} disabled={disabled} onChange={(series) => set({ series })} />
        <PicturesEditor pictures={document.pictures} disabled={disabled} onChange={(pictures) => set({ pictures })} />
      </fieldset>
    </section>
  );
}

export function ColumnTitle({ title, note }: { title: string; note: string }) {
  return (
    <h2 className="font-serif text-[19px]">
      {title} <span className="ml-1 font-sans text-note text-slate">{note}</span>
    </h2>
  );
}

import type { Kind, PartOf, Scope, Series } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';
import type { Changed } from '../../shared/changed';

/** A system in signal equations. */
export interface Drawn {
  readonly name: string;
  readonly text: string;
  readonly from: string;
  readonly to: string;
}

/** What the editor of one kind of part is given. */
export interface EditorProps<K extends Kind> {
  readonly part: PartOf<K>;
  /** One imagined student's numbers and systems, to show what formulas mean. */
  readonly scope: Scope;
  readonly series: readonly Series[];
  /** Systems in signal equations. */
  readonly diagrams: readonly Drawn[];
  readonly findings: readonly Finding[];
  /** Change of a part that keeps its kind; a field that is `undefined` is taken out. */
  readonly onChange: (change: Changed<PartOf<K>>) => void;
}

/** What is wrong with a field of a part, from the findings of that part. */
export const errorOf = (findings: readonly Finding[], field: string): string | undefined =>
  findings.find(({ path }) => path.endsWith(`/${field}`))?.message;

/** A prompt that shows what a part is about, showing what it is about now. */
export const withFormula = (prompt: string, before: string, after: string): string =>
  after.trim() ? prompt.replaceAll(`{{${before}}}`, `{{${after}}}`) : prompt;

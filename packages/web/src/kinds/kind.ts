import type {
  AnswerOf,
  Attempt,
  Bench,
  Kind,
  PartOf,
  Problem,
  Scope,
  SeenOf,
  Series,
  Settings,
  Verdict,
} from '@nailset/core';
import type { ComponentType, Dispatch, ReactNode } from 'react';
import type { Work, WorkAction } from '../loop/action';
import type { Knob } from '../loop/knob';
import type { EditorProps } from './fields/editor';

/** How an answer reads before it is handed in. */
export interface Readable {
  /** The answer, typeset. */
  readonly shown: ReactNode;
  readonly words: string;
  /** Why it cannot be checked as it stands. */
  readonly problem: string | undefined;
}

/** What a ladder gives right now: its verdict, and what the kind’s own bench draws. */
export interface Response {
  readonly verdict: Verdict;
}

/** A part with a ladder, ready to respond to settings. */
export interface Prepared {
  /** What the kind’s bench works with, beyond single responses. */
  readonly responses: unknown;
  readonly respond: (settings: Settings) => Response | Problem;
}

/** What a bench with a ladder shows; `response` is of the present settings or of the last that could be read. */
export interface Live {
  readonly problem: Problem | undefined;
  readonly responses: unknown;
  readonly response: Response | undefined;
}

/** An answer that consists of settings. */
export interface Ladder<K extends Kind> {
  /** The names of what is set, in the order of the ladder. */
  names(part: PartOf<K>): readonly string[];
  /** What is set, as it stands on the ladder. */
  knobs(part: SeenOf<K>): Knob[];
  settings(answer: AnswerOf<K>): Settings;
  answer(settings: Settings): AnswerOf<K>;
  /** @throws Problem when the part cannot be drawn at all. */
  prepare(part: SeenOf<K>, series: readonly Series[]): Prepared;
}

/** What the bench of one kind of part is given. */
export interface BenchProps<K extends Kind> {
  readonly part: SeenOf<K>;
  readonly answer: AnswerOf<K>;
  readonly bench: Pick<Bench, 'parameters' | 'series'>;
  /** What answers may use by name. */
  readonly scope: Scope;
  readonly work: Work;
  readonly dispatch: Dispatch<WorkAction>;
  readonly live: Live | undefined;
  readonly last: Attempt | undefined;
  readonly solution: Bench['solutions'][number] | undefined;
  /** Whether what is right may be drawn by now: the part is solved, spent or told. */
  readonly revealed: boolean;
  /** Whether the bench listens to the keyboard as a whole. */
  readonly keys: boolean;
  /** Whether it stands on a sheet with others, below its title. */
  readonly together: boolean;
  readonly onChange: (answer: AnswerOf<K>) => void;
}

/** What is shown of an answer that was handed in. */
export interface ShownProps<K extends Kind> {
  readonly part: PartOf<K>;
  readonly answer: AnswerOf<K>;
  readonly scope: Scope;
}

/** One kind of answer as a student works with it, and as it is shown once it is handed in. One folder per kind. */
export interface StudentKind<K extends Kind> {
  readonly Bench: ComponentType<BenchProps<K>>;
  readonly Shown: ComponentType<ShownProps<K>>;
  /** Brings what the bench is drawn with and what only this kind needs. */
  bring?(): Promise<unknown>;
  /** The answer with which a part starts. */
  blank(part: SeenOf<K>): AnswerOf<K>;
  /** How an answer reads; a kind with a ladder says more while it responds. */
  readable(part: SeenOf<K>, answer: AnswerOf<K>, scope: Scope): Readable;
  /** Whether something that a browser kept is an answer of this kind, but for its kind. */
  isStored(kept: Readonly<Record<string, unknown>>): boolean;
  /** Whether two answers would be checked alike. */
  isSame(left: AnswerOf<K>, right: AnswerOf<K>): boolean;
  readonly ladder: Ladder<K> | null;
  /** Whether the expected answer is LaTeX. */
  readonly isFormula: boolean;
  /** Whether its bench is worked on before everyone, on the lectern. */
  readonly isProjected: boolean;
  /** Whether it may stand with others on one sheet. */
  isSmall(part: SeenOf<K>): boolean;
  /** Whether Enter in its field hands in: what is typed there is one line and the whole answer. */
  readonly entersByKey: boolean;
  /** What people type there and keyboards hide. */
  readonly symbols: readonly string[];
}

/** What a new part is about. */
export interface About {
  readonly system: string;
  readonly parameter: string;
  readonly diagram: DiagramPair;
}

/** A diagram and the pair of signals that new parts ask about. */
export interface DiagramPair {
  readonly name: string;
  readonly from: string;
  readonly to: string;
}

type Fresh<K extends Kind> = (about: About) => Omit<PartOf<K>, 'id' | 'kind'>;

/** One kind of answer as its instructor makes it. */
export interface AuthorKind<K extends Kind> {
  /** What it is called, in the builder. */
  readonly name: string;
  /** The first part of its kind gets this id. */
  readonly id: string;
  readonly Editor: ComponentType<EditorProps<K>>;
  /** A part to start from. */
  readonly fresh: Fresh<K>;
  /** The same kind made for another purpose, offered beside it. */
  readonly variants?: readonly { name: string; id: string; readonly fresh: Fresh<K> }[];
  /** Whether curves can stand beside the part. */
  readonly hasFigure: boolean;
  /** Whether it is about a system in signal equations. */
  readonly aboutDiagram: boolean;
  /** What the list of parts says of it, where that is more than its name. */
  readonly summary?: (part: PartOf<K>) => string;
}

import {
  type Answer,
  Problem,
  type Scope,
  type StudentPart,
  numberFromText,
  pointsFromText,
  rangeWords,
  rangesFromText,
  attempt,
  refuseOutside,
} from '@nailset/core';
import type { ReactNode } from 'react';
import { Formula } from '../shared/Formula';
import { understand } from '../shared/expression';
import { knobsOf } from './knobs';
import type { Live } from './useLive';

export interface Readable {
  /** The answer, typeset. */
  readonly shown: ReactNode;
  readonly words: string;
  /** Why it cannot be checked as it stands. */
  readonly problem: string | undefined;
}

/** A setting beyond its range: drawn like any other, but not handed in. */
function outsideOf(part: StudentPart, answer: Answer): string | undefined {
  const settings = answer.kind === 'gains' ? answer.gains : answer.kind === 'curve' ? answer.knobs : undefined;
  const found = settings && attempt(() => refuseOutside(knobsOf(part), settings));
  return found instanceof Problem ? found.message : undefined;
}

/** How an answer reads before it is handed in. */
export function readableAnswer(part: StudentPart, answer: Answer, scope: Scope, live: Live | undefined): Readable {
  if (live) {
    const { response, problem } = live;
    return {
      shown: null,
      words: response?.verdict.words ?? '',
      problem: problem?.message ?? outsideOf(part, answer),
    };
  }
  switch (answer.kind) {
    case 'choice': {
      const open = part.kind === 'choice' && !part.several && answer.chosen.length === 0;
      return { shown: null, words: '', problem: open ? 'Choose one first.' : undefined };
    }
    case 'trend': {
      const cells = part.kind === 'trend' ? part.changes.length * part.rows.length : 0;
      const left = cells - Object.keys(answer.cells).length;
      const problem = left > 0 ? `${left === 1 ? 'One cell is' : `${left} cells are`} still open.` : undefined;
      return { shown: null, words: '', problem };
    }
    case 'number':
      return readableNumber(part.kind === 'number' ? part.unit : '', answer.text);
    case 'transferFunction': {
      const understood = understand(answer.text, scope);
      const wrong = !understood.ok && (answer.text.trim() ? understood.problem.message : 'Type your answer first.');
      return {
        shown: understood.ok ? <Formula latex={`\\displaystyle G(s)=${understood.reading.expanded}`} /> : null,
        words: understood.ok ? 'Is this what you meant?' : '',
        problem: wrong || undefined,
      };
    }
    case 'diagram': {
      const open = Object.values(answer.texts).every((text) => !text.trim());
      return { shown: null, words: '', problem: open ? 'Type your answer first.' : undefined };
    }
    case 'points':
      return readablePoints(answer.text);
    case 'range':
      return readableRange(answer.text);
    case 'paths':
      return { shown: null, words: '', problem: answer.text.trim() ? undefined : 'List them first.' };
    case 'states': {
      const open = [answer.a, answer.b, answer.c, answer.d].some((text) => !text.trim());
      return { shown: null, words: '', problem: open ? 'Fill in all four matrices.' : undefined };
    }
    case 'reduction': {
      const count = answer.steps.length;
      const words = count === 0 ? '' : count === 1 ? 'One step made.' : `${count} steps made.`;
      return { shown: null, words, problem: count === 0 ? 'Make a first step.' : undefined };
    }
    default:
      return { shown: null, words: '', problem: undefined };
  }
}

function readableRange(text: string): Readable {
  try {
    const words = rangesFromText(text).map(rangeWords).join(' or ') || 'No gain.';
    return { shown: null, words, problem: undefined };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return { shown: null, words: '', problem: error.message };
  }
}

function readablePoints(text: string): Readable {
  try {
    const count = pointsFromText(text).length;
    return { shown: null, words: count === 1 ? 'One point.' : `${count} points.`, problem: undefined };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return { shown: null, words: '', problem: error.message };
  }
}

function readableNumber(unit: string, text: string): Readable {
  try {
    const value = numberFromText(text, unit);
    return { shown: `${value} ${unit}`, words: '', problem: undefined };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return { shown: null, words: '', problem: text.trim() ? error.message : 'Type your answer first.' };
  }
}

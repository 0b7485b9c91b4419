import { nameToLatex, orProblem, Problem, refuseOutside, type Settings } from '@nailset/core';
import type { Knob } from '../loop/knob';
import { Formula } from '../shared/Formula';
import type { Readable } from './kind';

/** What kinds have in common whose answer consists of settings. */

/** Settings as they start; what is optional is left out. */
export const startOfKnobs = (knobs: readonly Knob[]): Settings =>
  Object.fromEntries(knobs.flatMap(({ name, start, optional }) => (optional ? [] : [[name, String(start)]])));

/** A setting beyond its range is drawn like any other, but not handed in. */
export function readableSettings(knobs: readonly Knob[], settings: Settings): Readable {
  const outcome = orProblem(() => refuseOutside(knobs, settings));
  return { shown: null, words: '', problem: outcome instanceof Problem ? outcome.message : undefined };
}

export const ShownSettings = ({ names, settings }: { names: readonly string[]; settings: Settings }) => (
  <p className="mt-1 text-[16px]">
    {names
      .filter((name) => settings[name] !== undefined)
      .map((name) => (
        <span key={name} className="mr-4 whitespace-nowrap">
          <Formula latex={nameToLatex(name)} /> {settings[name]}
        </span>
      ))}
  </p>
);

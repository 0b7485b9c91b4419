import type { Model } from '../../checking/model.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { readBlocks } from '../../diagram/blocks.js';
import { readWith } from '../../diagram/exact.js';
import { isSameGain } from '../../diagram/gains.js';
import { pathsOf } from '../../diagram/paths.js';
import { equationsOf } from '../../exercise/systems.js';
import { toLatex } from '../../expression/latex.js';
import { knownLetter, withKnownLetters } from '../../expression/letters.js';
import { parse } from '../../expression/parse.js';
import { piecesOf } from '../../expression/pieces.js';
import { Problem } from '../../expression/problem.js';
import { toText } from '../../expression/text.js';
import { namesIn } from '../../expression/tree.js';
import type { Checking } from '../kind.js';
import type { PathsPart } from './part.js';

/** The gains of the loops or forward paths of a diagram, letters kept. */
export function expectedPaths(
  part: Pick<PathsPart, 'system' | 'from' | 'to' | 'list'>,
  model: Pick<Model, 'systems'>,
): string[] {
  const view = pathsOf(readBlocks(equationsOf(model, part.system, [part.from, part.to]).text, [part.from]), part);
  return view[part.list].map(({ gain }) => gain);
}

/** The gains that a person listed, in the letters of the diagram. */
export function gainsIn(
  part: Pick<PathsPart, 'system' | 'from'>,
  model: Pick<Model, 'systems'>,
  text: string,
): string[] {
  const letters = lettersOf(part, model);
  return listedGains(text).map((gain) => toText(withKnownLetters(parse(gain), letters)));
}

function lettersOf({ system, from }: Pick<PathsPart, 'system' | 'from'>, model: Pick<Model, 'systems'>): string[] {
  return readBlocks(equationsOf(model, system).text, [from]).nodes.flatMap((node) =>
    node.kind === 'block' ? namesIn(parse(node.gain)) : [],
  );
}

/** The gains that a person listed, separated by commas, semicolons or lines; `none` for an empty list. */
export function listedGains(text: string): string[] {
  if (/^\s*(none|–|-)\s*$/i.test(text)) return [];
  return piecesOf(text);
}

export const checking: Checking<'paths'> = {
  fromText: (_part, text) => ({ kind: 'paths', text }),
  read(part, model, { text }) {
    if (!text.trim()) throw new Problem('empty', 'List them first; type “none” if there are none.');
    const { text: equations } = equationsOf(model, part.system);
    const { inputs, signals } = readWith(equations, {}, [part.from]);
    const known = new Set(lettersOf(part, model));
    for (const gain of listedGains(text)) {
      const stray = namesIn(parse(gain)).find((name) => name !== 's' && !known.has(knownLetter(name, known)));
      if (stray === undefined) continue;
      throw new Problem(
        'unknownName',
        inputs.includes(stray) || signals.includes(stray)
          ? `${stray} is a signal; a gain is a product of blocks.`
          : `“${stray}” is not in the diagram.`,
      );
    }
  },
  check(part, model, { text }) {
    const expected = expectedPaths(part, model);
    const listed = gainsIn(part, model, text);
    const what = part.list === 'loops' ? 'loop' : 'path';
    const isTwice = (gain: string, k: number): boolean => listed.slice(0, k).some((other) => isSameGain(gain, other));
    const extra = listed.flatMap((gain, k) => {
      if (!expected.some((other) => isSameGain(gain, other))) return [`${gain} is no ${what} of this diagram.`];
      return isTwice(gain, k) ? [`${gain} is listed twice.`] : [];
    });
    const share = part.points / Math.max(1, expected.length);
    const item = { unit: '', measured: null, limit: null, relation: 'equal' as const, close: false };
    let counted = 0;
    const checked = expected.map((gain, k) => {
      const met = listed.some((other) => isSameGain(gain, other));
      // Each wrong entry takes the points of one that was found, whichever that is.
      counted += Number(met);
      const points = met && counted > extra.length ? share : 0;
      const words = met ? `${gain}: found.` : `One ${what} is missing.`;
      return {
        ...item,
        id: `${what}-${k + 1}`,
        label: met ? gain : `missing ${what}`,
        met,
        points,
        outOf: share,
        words,
      };
    });
    const items =
      extra.length > 0 || checked.length === 0
        ? [
            ...checked,
            {
              ...{ ...item, id: 'extra', label: `No other ${what}s`, met: extra.length === 0 },
              ...{
                points: checked.length === 0 && extra.length === 0 ? part.points : 0,
                outOf: checked.length === 0 ? part.points : 0,
              },
              words: extra[0] ?? 'There is none.',
            },
          ]
        : checked;
    const missing = checked.filter(({ met }) => !met).length;
    const words =
      missing === 0 && extra.length === 0
        ? `All ${what}s are found.`
        : [`${checked.length - missing} of ${checked.length} found.`, ...extra.slice(0, 1)].join(' ');
    return verdictOf(items, words);
  },
  solution: (part, model) =>
    expectedPaths(part, model)
      .map((gain) => toLatex(parse(gain)))
      .join(',\\quad ') || '\\text{none}',
};

import { useState } from 'react';
import { keepHere, keptHere } from './keptHere';

/** Our own words, each in one line. */
export const ownWords = {
  nail: 'what the response must meet; solid when it holds',
  rail: 'the nails with what is measured, beside the plot',
  ladder: 'what you set, with a fine and a coarse step',
  trail: 'every setting you tried; a click brings it back',
  'earlier curve': 'a setting of the trail, kept faintly',
  reading: 'a point asked on a curve',
  slip: 'a usual mistake that a wrong answer shows',
  working: 'the way to the right answer, with your numbers',
  practice: 'the same question with other numbers; it never counts',
  'open bench': 'any system, without an exercise',
} as const;
export type OwnWordName = keyof typeof ownWords;

/** After so many pages with it a word is known. */
const untilKnown = 3;
const place = 'nailset words met';
/** Words that were counted since the page was loaded. */
const counted = new Set<OwnWordName>();

/** The sentence to a word of ours where it is met, as long as it is new to whoever sits here; then nothing. */
export function OwnWord({ word }: { word: OwnWordName }) {
  const [isNew] = useState(() => {
    const met = timesMet();
    const times = met[word] ?? 0;
    if (!counted.has(word)) keepHere(place, { ...met, [word]: times + 1 });
    counted.add(word);
    return times < untilKnown;
  });
  if (!isNew) return null;
  const text = ownWords[word];
  return (
    <p className="mb-2 text-note font-normal tracking-normal text-slate normal-case print:hidden">
      {text.charAt(0).toUpperCase() + text.slice(1)}.
    </p>
  );
}

function timesMet(): Readonly<Record<string, number>> {
  const kept = keptHere(place);
  if (typeof kept !== 'object' || kept === null) return {};
  return Object.fromEntries(Object.entries(kept).filter(([, times]) => typeof times === 'number'));
}

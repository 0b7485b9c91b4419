import type { PointSet } from '@nailset/core';

const questions: Record<PointSet, readonly [title: string, question: string]> = {
  poles: ['Poles', 'Where are its poles?'],
  zeros: ['Zeros', 'Where are its zeros?'],
  breakPoints: ['Break points', 'Where do branches of its locus meet?'],
  axisCrossings: ['Crossings', 'Where does its locus cross the imaginary axis?'],
  realAxis: ['Real axis', 'Which stretches of the real axis are on its locus?'],
  asymptotes: ['Asymptotes', 'Where do the asymptotes of its locus run?'],
  locus: ['Sketch', 'Sketch its locus.'],
};

/** Title and prompt of a part that asks for points of a system, until the instructor writes others. */
export function pointsAsked(what: PointSet, system: string): { title: string; prompt: string } {
  const [title, question] = questions[what];
  return { title, prompt: `The loop is $L(s) = {{${system}}}$. ${question}` };
}

import Sequencer from '@jest/test-sequencer';

/** Files that take longest though they are short. */
const long = [
  'e2e/screens.',
  'e2e/staff-screens.',
  'e2e/launcher.',
  'e2e/soak.',
  'server/test/queue.',
  'server/test/access.',
];

/** Long files first, so that none is left alone at the end: a machine that has not run them yet goes by their size. */
export default class LongestFirst extends Sequencer {
  sort(tests) {
    const isLong = ({ path }) => long.some((each) => path.includes(each));
    const sorted = super.sort(tests);
    return [...sorted.filter(isLong), ...sorted.filter((test) => !isLong(test))];
  }
}

import { examine } from '../src/checks';
import { demoExercises } from './demo';

// The demo is published without being examined, so that a first start is quick.
test.each(demoExercises)('nothing keeps “$title” from being published', (document) => {
  expect(examine(document)).toEqual([]);
});

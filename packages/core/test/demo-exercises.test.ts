import { Value } from 'typebox/value';
import { examine, studentExercise } from '../src/checks';
import { kindSchemas } from '../src/exercise/parts';
import { sampleOf } from '../src/proof/sample';
import { demoExercises } from './demo';

// The demo is published without being examined, so that a first start is quick.
test.each(demoExercises)('nothing keeps “$title” from being published', (document) => {
  expect(examine(document)).toEqual([]);
});

test('students see of every kind of part what its schema lists, and nothing else', () => {
  const parts = demoExercises.flatMap((document) => studentExercise(document, sampleOf(document)[0]!).parts);
  expect(new Set(parts.map(({ kind }) => kind))).toEqual(new Set(Object.keys(kindSchemas)));
  const odd = parts.filter((part) => !Value.Check(kindSchemas[part.kind].seen, JSON.parse(JSON.stringify(part))));
  expect(odd.map(({ kind, title }) => `${kind}: ${title}`)).toEqual([]);
});

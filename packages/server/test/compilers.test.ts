import { lazyCompilers } from '../src/compilers';

const object = (properties: object) => ({ type: 'object', required: Object.keys(properties), properties });
const text = { type: 'string' };
const orNull = (of: object) => ({ anyOf: [of, { type: 'null' }] });

/** The answer as it is sent by a route with this schema. */
function sent(schema: object, answer: unknown): unknown {
  const { buildSerializer } = lazyCompilers().compilersFactory;
  const route = { schema, method: 'GET', url: '/', httpStatus: '200' };
  return JSON.parse(buildSerializer({}, {})(route)(answer));
}

describe('an answer', () => {
  const schema = object({
    person: orNull(object({ name: text })),
    marks: { type: 'array', items: orNull(object({ points: orNull({ type: 'number' }) })) },
    parts: {
      type: 'array',
      items: {
        anyOf: [
          object({ kind: { const: 'number' }, unit: text }),
          object({ kind: { const: 'choice' }, options: { type: 'array', items: text } }),
        ],
      },
    },
  });

  test('holds nothing that its schema does not list, also where null may stand', () => {
    const person = { name: 'Ada', hash: 'secret' };
    const marks = [{ points: 2, hash: 'secret' }, null, { points: null }];
    expect(sent(schema, { person, marks, parts: [], hash: 'secret' })).toEqual({
      ...{ person: { name: 'Ada' }, parts: [] },
      marks: [{ points: 2 }, null, { points: null }],
    });
  });

  test('tells null from nothing, and writes what is one of several kinds as it is', () => {
    const answer = {
      ...{ person: null, marks: [] },
      parts: [
        { kind: 'choice', options: ['a', '"b"'] },
        { kind: 'number', unit: 's' },
      ],
    };
    expect(sent(schema, answer)).toEqual(answer);
  });
});

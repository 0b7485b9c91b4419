import { Value } from 'typebox/value';
import { Answer, ExerciseDocument, HandIn, Registration, Trail } from '../src/index';
import { exercise, model, overshoot, tune } from './documents';

const fits = (document: unknown): boolean => Value.Check(ExerciseDocument, document);
const withPart = (part: unknown) => ({ ...exercise, parts: [part] });

describe('the exercise document', () => {
  test('of each kind of part fits', () => {
    expect(fits(exercise)).toBe(true);
    for (const part of [model, overshoot, tune]) expect(fits(withPart(part))).toBe(true);
  });

  test('survives being written and read as JSON', () => {
    expect(JSON.parse(JSON.stringify(exercise))).toEqual(exercise);
  });

  test.each<[string, unknown]>([
    ['another format', { ...exercise, format: 3 }],
    ['no parts', { ...exercise, parts: [] }],
    ['more parts than letters', { ...exercise, parts: Array(27).fill(model) }],
    ['no tries', { ...exercise, attempts: 0 }],
    ['half a try', { ...exercise, attempts: 1.5 }],
    ['something unknown', { ...exercise, colour: 'red' }],
    ['a far too long statement', { ...exercise, statement: 'x'.repeat(8001) }],
    ['a part of an unknown kind', withPart({ ...model, kind: 'essay' })],
    ['a part with a strange id', withPart({ ...model, id: 'Model 1' })],
    ['something unknown in a part', withPart({ ...model, hint: 'no' })],
    ['a negative tolerance', withPart({ ...model, tolerancePercent: -1 })],
    ['an unknown quantity', withPart({ ...tune, nails: [{ ...tune.nails[0], quantity: 'beauty' }] })],
    ['a part without nails', withPart({ ...tune, nails: [] })],
    ['a nail without a limit', withPart({ ...tune, nails: [{ ...tune.nails[0], limit: null }] })],
    ['an infinite limit', withPart({ ...tune, nails: [{ ...tune.nails[0], limit: Infinity }] })],
    [
      'a rung of zero',
      withPart({ ...tune, controller: { ...tune.controller, gains: [{ name: 'Kp', start: 1, fine: 0, coarse: 1 }] } }),
    ],
    ['a horizon of zero', withPart({ ...tune, horizon: 0 })],
    ['a symbol that is no name', { ...exercise, parameters: [{ ...exercise.parameters[0], symbol: '2a' }] }],
    [
      'an empty list to draw from',
      { ...exercise, parameters: [{ ...exercise.parameters[0], draw: { kind: 'list', values: [] } }] },
    ],
  ])('with %s does not fit', (_name, document) => {
    expect(fits(document)).toBe(false);
  });
});

describe('what students send', () => {
  const handIn = {
    key: 'a'.repeat(24),
    versionId: '00000000-0000-0000-0000-000000000000',
    partId: 'tune',
    answer: { kind: 'gains', gains: { Kp: '1' } },
    trail: [],
  };

  test('fits when it is complete', () => {
    expect(Value.Check(HandIn, handIn)).toBe(true);
    expect(Value.Check(Answer, { kind: 'transferFunction', text: '' })).toBe(true);
    expect(Value.Check(Trail, [{ gains: { Kp: '1', Ki: '2', Kd: '3' }, holding: 2 }])).toBe(true);
  });

  test.each<[string, unknown]>([
    ['a short key', { ...handIn, key: 'abc' }],
    ['a key with other signs', { ...handIn, key: `${'a'.repeat(20)}<>` }],
    ['an id that is none', { ...handIn, versionId: '1 or 1=1' }],
    ['a gain as a number', { ...handIn, answer: { kind: 'gains', gains: { Kp: 1 } } }],
    ['a gain whose name is none', { ...handIn, answer: { kind: 'gains', gains: { 'K p': '1' } } }],
    ['far too long a text', { ...handIn, answer: { kind: 'number', text: '1'.repeat(2001) } }],
    ['an endless trail', { ...handIn, trail: Array(201).fill({ gains: { Kp: '1' }, holding: 0 }) }],
    ['points of their own choosing', { ...handIn, points: 10 }],
  ])('does not fit with %s', (_name, body) => {
    expect(Value.Check(HandIn, body)).toBe(false);
  });

  test('an account needs a name, an e-mail and a password of some length', () => {
    const good = { name: 'Ilse', email: 'ilse@harbour.example', password: 'ten letters' };
    expect(Value.Check(Registration, good)).toBe(true);
    for (const bad of [{ name: ' ' }, { email: 'ilse' }, { password: 'short' }, { admin: true }]) {
      expect(Value.Check(Registration, { ...good, ...bad })).toBe(false);
    }
  });
});

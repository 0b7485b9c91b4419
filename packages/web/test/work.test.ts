import type { Bench } from '@nailset/core';
import { type Work, addDecimal, blank, sameAnswer, workFrom, workReducer } from '../src/bench/work';
import { knobsOf } from '../src/bench/knobs';
import { ladderKey } from '../src/bench/Ladder';
import { loopResponses, tryResponse } from '../src/bench/loopResponse';
import { Problem } from '@nailset/core';

const tune: Extract<Bench['parts'][number], { kind: 'gains' }> = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  points: 2,
  plant: '2/(s^2 + s)',
  families: [],
  output: 'Position',
  controller: {
    terms: 'PD',
    form: 'parallel',
    gains: [
      { name: 'Kp', start: 1, fine: 0.1, coarse: 5 },
      { name: 'Kd', start: 0, fine: 0.25, coarse: 1 },
    ],
  },
  views: ['plane'],
  attempts: 3,
  horizon: 5,
  nails: [{ id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 }],
};
const model = {
  id: 'model',
  kind: 'transferFunction',
  title: 'Model',
  prompt: '',
  points: 1,
  tolerancePercent: 1,
  attempts: 3,
} as const;

const attempt = (
  partId: string,
  answer: Bench['saved'][number]['answer'],
  met: boolean,
): Bench['handedIn'][number] => ({
  id: 'x',
  partId,
  attempt: 1,
  version: 1,
  handedInAt: '',
  answer,
  verdict: { checker: '1', met, points: 0, outOf: 1, words: '', items: [] },
});
const fresh = (): Work => workFrom({ parts: [model, tune], saved: [], handedIn: [] });
const [Kp, Kd] = knobsOf(tune);
const gainsOf = (work: Work) => (work.answers['tune'] as Extract<Work['answers'][string], { kind: 'gains' }>).gains;

describe('the work on a bench', () => {
  test('starts at the exercise’s gains, and at the first part that is not done', () => {
    expect(gainsOf(fresh())).toEqual({ Kp: '1', Kd: '0' });
    expect(fresh().open).toBe('model');
    const done = workFrom({
      parts: [model, tune],
      saved: [],
      handedIn: [attempt('model', { kind: 'transferFunction', text: '1/s' }, true)],
    });
    expect(done.open).toBe('tune');
    expect(done.answers['model']).toEqual({ kind: 'transferFunction', text: '1/s' });
  });

  test('takes what was saved before what was handed in, if it still fits the part', () => {
    const saved = (answer: Bench['saved'][number]['answer']) => [{ partId: 'tune', answer, trail: [], savedAt: '' }];
    const handedIn = [attempt('tune', { kind: 'gains', gains: { Kp: '7', Kd: '0' } }, false)];
    expect(
      gainsOf(workFrom({ parts: [tune], saved: saved({ kind: 'gains', gains: { Kp: '9', Kd: '0' } }), handedIn })).Kp,
    ).toBe('9');
    expect(gainsOf(workFrom({ parts: [tune], saved: saved({ kind: 'number', text: '3' }), handedIn })).Kp).toBe('7');
  });

  test('is carried over to a new version where the part still asks for the same', () => {
    const before = workReducer(fresh(), { do: 'set', part: 'tune', knob: 'Kp', text: '13' });
    const after = workFrom(
      { parts: [{ ...model, kind: 'number', unit: 's', quantity: 'riseTime' }, tune], saved: [], handedIn: [] },
      before,
    );
    expect(gainsOf(after).Kp).toBe('13');
    expect(after.answers['model']).toEqual({ kind: 'number', text: '' });
    expect(after.changes).toBe(1);
  });

  test('nudges in exact decimals and chooses the gain that is nudged', () => {
    let work = fresh();
    for (let k = 0; k < 3; k++) work = workReducer(work, { do: 'nudge', part: 'tune', knob: Kd!, by: 0.1 });
    expect(gainsOf(work).Kd).toBe('0.3');
    expect(work.chosen).toBe('Kd');
    expect(addDecimal('-0.3', 0.1)).toBe('-0.2');
    expect(addDecimal('rubbish', 2)).toBe('2');
  });

  test('a stop is kept once, and can be taken back', () => {
    let work = fresh();
    work = workReducer(work, { do: 'stop', part: 'tune', holding: 0 });
    work = workReducer(work, { do: 'stop', part: 'tune', holding: 0 });
    work = workReducer(work, { do: 'set', part: 'tune', knob: 'Kp', text: '4' });
    work = workReducer(work, { do: 'stop', part: 'tune', holding: 1 });
    expect(work.trails['tune']).toEqual([
      { gains: { Kp: '1', Kd: '0' }, holding: 0 },
      { gains: { Kp: '4', Kd: '0' }, holding: 1 },
    ]);
    expect(gainsOf(workReducer(work, { do: 'restore', part: 'tune', index: 0 })).Kp).toBe('1');
    expect(workReducer(work, { do: 'restore', part: 'tune', index: 9 })).toBe(work);
  });

  test('what changes nothing is not worth saving', () => {
    const work = fresh();
    expect(workReducer(work, { do: 'type', part: 'model', text: '' }).changes).toBe(0);
    expect(workReducer(work, { do: 'set', part: 'tune', knob: 'Kp', text: '1' }).changes).toBe(0);
    expect(workReducer(work, { do: 'type', part: 'tune', text: '1/s' })).toBe(work);
    expect(workReducer(work, { do: 'type', part: 'model', text: '1/s' }).changes).toBe(1);
  });

  test('answers that would be checked alike are the same', () => {
    const gains = (Kp: string, Kd?: string) => ({ kind: 'gains', gains: { Kp, ...(Kd ? { Kd } : {}) } }) as const;
    expect(sameAnswer(gains('1.0'), gains('1', '0'))).toBe(true);
    expect(sameAnswer(gains('1'), gains('1', '2'))).toBe(false);
    expect(sameAnswer({ kind: 'number', text: ' 3 %' }, { kind: 'number', text: '3%' })).toBe(true);
    expect(sameAnswer({ kind: 'number', text: '3' }, gains('3'))).toBe(false);
    expect(blank(model)).toEqual({ kind: 'transferFunction', text: '' });
  });
});

describe('keys of the ladder', () => {
  const press = (key: string, shiftKey = false, work = fresh()) =>
    ladderKey({ key, shiftKey } as KeyboardEvent, 'tune', knobsOf(tune), work);
  test('choose and nudge', () => {
    expect(press('2')).toEqual({ do: 'choose', knob: 'Kd' });
    expect(press('3')).toBeUndefined();
    expect(press('ArrowUp')).toEqual({ do: 'nudge', part: 'tune', knob: Kp, by: 0.1 });
    expect(press('ArrowDown', true)).toEqual({ do: 'nudge', part: 'tune', knob: Kp, by: -5 });
    expect(press('x')).toBeUndefined();
    expect(press('ArrowUp', false, { ...fresh(), chosen: 'Ki' })).toMatchObject({ knob: Kp });
  });
});

describe('responses on the bench', () => {
  const responses = loopResponses(tune, { names: new Map() }, []);
  test('are computed once for the same gains', () => {
    const first = responses.of({ Kp: '4', Kd: '3' });
    expect(responses.of({ Kp: '4', Kd: '3' })).toBe(first);
    expect(first.verdict.met).toBe(true);
    expect(first.curves.y!.times.at(-1)).toBe(5);
  });

  test('gains that are no numbers give their problem', () => {
    expect(tryResponse(responses, { Kp: '4', Kd: '-' })).toBeInstanceOf(Problem);
  });
});

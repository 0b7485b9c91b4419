import type { Bench } from '@nailset/core';
import { Problem } from '@nailset/core';
import { blank, sameAnswer } from '../src/kinds/students';
import { knobsOf } from '../src/kinds/students';
import type { Work } from '../src/loop/action';
import { controllerLatex } from '../src/loop/controllerText';
import { ladderKey } from '../src/loop/Ladder';
import { loopResponses, tryResponse } from '../src/loop/loopResponse';
import { leadsAndLagsOf } from '../src/loop/ratios';
import { addDecimal } from '../src/loop/settings';
import { workFrom, workReducer } from '../src/work/work';

const tune: Extract<Bench['parts'][number], { kind: 'gains' }> = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  points: 2,
  plant: '2/(s^2 + 0.8*s)',
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
  checked: true,
  outOfTime: false,
  comments: [],
  returned: false,
  answer,
  verdict: { checker: '1', met, points: 0, outOf: 1, words: '', items: [] },
});
const fresh = (): Work => workFrom({ parts: [model, tune], saved: [], handedIn: [] });
const [Kp, Kd] = knobsOf(tune);
const gainsOf = (work: Work) => (work.answers['tune'] as Extract<Work['answers'][string], { kind: 'gains' }>).gains;

describe('a lead or lag', () => {
  const place = (name: string, start: number) => ({ name, start, fine: 0.1, coarse: 1, optional: true });
  const lead = {
    ...tune,
    controller: { form: 'places', gains: [place('K', 1), place('z1', -1), place('p1', -10)] },
  } as unknown as typeof tune;
  const start = workReducer(workFrom({ parts: [lead], saved: [], handedIn: [] }), {
    ...{ do: 'setAll', part: 'tune', settings: { K: '1', z1: '-2', p1: '-16' } },
  });
  const held = workReducer(start, { do: 'holdRatio', part: 'tune', pair: '1' });
  const set = (work: Work, knob: string, text: string) => workReducer(work, { do: 'set', part: 'tune', knob, text });

  test('is told with its ratio, the nearer place first', () => {
    expect(leadsAndLagsOf({ z1: '-2', p1: '−16' })).toEqual([{ pair: '1', words: 'lead z1 : p1 = 1 : 8', ratio: 8 }]);
    expect(leadsAndLagsOf({ z1: '-2', p1: '-1' })[0]!.words).toBe('lag z1 : p1 = 1 : 2');
    expect(leadsAndLagsOf({ z1: '0', p1: '-1', z2: '-1' })).toEqual([]);
  });

  test('moves as one while its ratio is held, whichever of the two is moved', () => {
    expect(gainsOf(set(held, 'z1', '-3'))).toEqual({ K: '1', z1: '-3', p1: '-24' });
    expect(gainsOf(set(held, 'p1', '-4'))).toEqual({ K: '1', z1: '-0.5', p1: '-4' });
    expect(gainsOf(set(start, 'z1', '-3'))).toEqual({ K: '1', z1: '-3', p1: '-16' });
  });

  test('keeps the held ratio through what is only half typed, and lets go again', () => {
    const typed = ['-', '-0', '-0.', '-0.7'].reduce((work, text) => set(work, 'z1', text), held);
    expect(gainsOf(typed)).toEqual({ K: '1', z1: '-0.7', p1: '-5.6' });
    const free = workReducer(typed, { do: 'holdRatio', part: 'tune', pair: '1' });
    expect(gainsOf(set(free, 'z1', '-1'))).toEqual({ K: '1', z1: '-1', p1: '-5.6' });
  });

  test('both set at once have a new ratio, and one taken out ends the hold', () => {
    const both = workReducer(held, { do: 'setAll', part: 'tune', settings: { K: '1', z1: '-1', p1: '-2' } });
    expect(gainsOf(both)).toEqual({ K: '1', z1: '-1', p1: '-2' });
    expect(gainsOf(set(both, 'z1', '-3'))).toEqual({ K: '1', z1: '-3', p1: '-6' });
    const alone = workReducer(held, { do: 'setAll', part: 'tune', settings: { K: '1', z1: '-2' } });
    expect(gainsOf(alone)).toEqual({ K: '1', z1: '-2' });
    const again = workReducer(alone, { do: 'setAll', part: 'tune', settings: { K: '1', z1: '-2', p1: '-4' } });
    expect(gainsOf(set(again, 'z1', '-3'))).toEqual({ K: '1', z1: '-3', p1: '-4' });
  });
});

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
    const saved = (answer: Bench['saved'][number]['answer']) => [
      { partId: 'tune', answer, trail: [], savedAt: '', revision: 1 },
    ];
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
    const typed = (part: string, text: string) =>
      workReducer(work, { do: 'answer', part, answer: { kind: 'transferFunction', text } });
    expect(typed('model', '')).toBe(work);
    expect(workReducer(work, { do: 'set', part: 'tune', knob: 'Kp', text: '1' }).changes).toBe(0);
    expect(typed('tune', '1/s')).toBe(work);
    expect(typed('model', '1/s').changes).toBe(1);
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

describe('the controller in s', () => {
  const formOf = (controller: object, gains: Record<string, string>) => {
    const part = { ...tune, controller: { terms: 'PID', gains: [], ...controller } } as unknown as typeof tune;
    const found = tryResponse(loopResponses(part, { names: new Map() }, []), gains);
    if (found instanceof Problem) throw found;
    const own = (part.controller as { form: 'parallel' | 'ideal' | 'series' }).form;
    return (form: 'parallel' | 'ideal' | 'series') => controllerLatex(found.loop, form, own);
  };
  const open = (...names: string[]) => names.map((name) => ({ name, start: 1, fine: 1, coarse: 1 }));

  test('has the times that were typed, and equals its parallel form, with a filter too', () => {
    const series = { form: 'series', gains: open('Kp', 'Ti', 'Td'), filterTime: '0.05' };
    const latex = formOf(series, { Kp: '2', Ti: '0.5', Td: '1.5' });
    expect(latex('series')).toBe('2\\left(1+\\frac{1}{0.5\\,s}\\right)\\left(1+\\frac{1.5\\,s}{0.05\\,s+1}\\right)');
    // Kp (1 + Td/Ti), Kp/Ti and Kp Td (1 − Tf/Ti).
    expect(latex('parallel')).toBe('8+\\tfrac{4}{s}+\\frac{2.7\\,s}{0.05\\,s+1}');
  });

  test('leaves out what is zero, and forms that there are not', () => {
    const latex = formOf({ form: 'parallel', gains: open('Kp', 'Ki', 'Kd') }, { Kp: '0', Ki: '3', Kd: '0' });
    expect([latex('parallel'), latex('ideal')]).toEqual(['\\tfrac{3}{s}', null]);
  });
});

import { Problem } from '../src/expression/problem';
import { systemFrom } from '../src/formula/evaluate';
import { curveOf } from '../src/response/curve';
import { driveLine, drivenMotion } from '../src/sheet/driven';
import { factsOf } from '../src/sheet/facts';
import { type ReadLine, readLines } from '../src/sheet/read';
import { emptySheet, type SheetDrive, sheetFrom } from '../src/sheet/sheet';
import { readSignal, signalAt, transformsOf } from '../src/sheet/signal';

const around = { numbers: new Map([['w', 3]]), data: [], initial: [] };
const system = (text: string) => ({ transfer: systemFrom(text, { names: new Map() }) });
const typed = (text: string): SheetDrive => ({ kind: 'typed', text });
const times = [0, 0.3, 1.1, 2, 2.6, 5];
/** Values over time of a system under a function of t. */
const values = (text: string, drive: string | SheetDrive, more = {}) => {
  const motion = drivenMotion(
    system(text),
    typeof drive === 'string' ? typed(drive) : drive,
    { ...around, ...more },
    6,
  );
  return times.map((time) => motion.at(time));
};
const close = (found: readonly number[], of: (t: number) => number, digits = 8) =>
  found.forEach((value, k) => expect(value).toBeCloseTo(of(times[k]!), digits));
const lines = (...texts: string[]) =>
  texts.map((each) => {
    const at = each.indexOf('=');
    return { name: each.slice(0, at).trim(), text: each.slice(at + 1).trim(), drawn: true, panes: 'all' as const };
  });
const systemIn = (read: ReadLine | undefined) => {
  if (read?.kind !== 'system') throw new Error(read?.kind === 'problem' ? read.problem.message : 'no system');
  return read;
};
const said = (read: ReadLine | undefined) => (read?.kind === 'problem' ? read.problem.message : read?.kind);

describe('functions of time', () => {
  test.each([
    ['3', () => 3],
    ['t', (t: number) => t],
    ['t^3/2 - t', (t: number) => t ** 3 / 2 - t],
    ['2sin(w*t)', (t: number) => 2 * Math.sin(3 * t)],
    ['sin(3t + pi/6)', (t: number) => Math.sin(3 * t + Math.PI / 6)],
    ['exp(-t)*cos(2*t)', (t: number) => Math.exp(-t) * Math.cos(2 * t)],
    ['t*sin(t)^2', (t: number) => t * Math.sin(t) ** 2],
    ['step(t - 2)*(t - 2)', (t: number) => Math.max(0, t - 2)],
    ['t*step(2 - t)', (t: number) => (t > 2 ? 0 : t)],
    ['step(t - 1)*step(t - 2)*exp(-t)', (t: number) => (t >= 2 ? Math.exp(-t) : 0)],
  ])('%s goes through an integrator by its transform', (text, of) => {
    const signal = readSignal(text, around.numbers);
    expect(transformsOf(signal).length).toBeGreaterThan(0);
    // What an integrator gives is the integral: compared with many small trapezoids.
    const integral = (until: number) => {
      const steps = 20_000;
      let sum = 0;
      for (let k = 0; k < steps; k++) sum += of(((k + 0.5) * until) / steps);
      return (sum * until) / steps;
    };
    close(values('1/s', text), integral, 3);
    times.forEach((time) => expect(signalAt(signal, time)).toBeCloseTo(of(time), 9));
  });

  test('a sine at the resonance of what it drives grows with time', () => {
    close(values('1/(s^2 + 9)', 'sin(3t)'), (t) => (Math.sin(3 * t) - 3 * t * Math.cos(3 * t)) / 18);
  });

  test('a sine as an input is the same as one that is typed', () => {
    const drive = { kind: 'sine', size: 2, omega: 3, at: 0.5 } as const;
    expect(values('1/(s + 1)', drive)).toEqual(values('1/(s + 1)', '2*sin(3*(t - 0.5))*step(t - 0.5)'));
  });

  test('one without a transform is followed by straight lines, through its jumps', () => {
    close(values('1/s', 'abs(t - 2)'), (t) => (t < 2 ? 2 * t - t ** 2 / 2 : 2 + (t - 2) ** 2 / 2), 3);
    const jump = values('1/s', 'step(sin(3*t))');
    expect(jump[2]).toBeCloseTo(Math.PI / 3, 4);
    expect(jump[3]).toBeCloseTo(Math.PI / 3, 4);
  });

  test.each([
    ['sin(', /missing|stops|closed/],
    ['3*x', /“x” is no number of this sheet/],
    ['step(t, 2)', /step\(t - 2\)/],
  ])('%s is refused', (text, words) => {
    expect(() => readSignal(text)).toThrow(words);
  });

  test('one that jumps without end is refused in words', () => {
    expect(() => values('1/s', 'abs(sin(1e6*t))')).toThrow(/jumps too often/);
  });

  test('what has no value at a time says when', () => {
    expect(() => values('1/s', 'ln(t)')).toThrow(/no value at t = 0/);
  });

  test('a system with more zeros than poles is refused rather than drawn without its impulse', () => {
    expect(() => values('s + 1', '1')).toThrow(Problem);
  });
});

describe('what drives a system', () => {
  test('initial values are added to an input, and missing ones are 0', () => {
    const initial = { initial: [2] };
    close(values('1/(s^2 + 1)', { kind: 'none' }, initial), (t) => 2 * Math.cos(t));
    close(values('1/(s^2 + 1)', { kind: 'step', from: 0, to: 1, at: 0 }, initial), (t) => 1 + Math.cos(t));
    close(values('1/(s^2 + 1)', typed('t'), initial), (t) => 2 * Math.cos(t) + t - Math.sin(t));
  });

  test('a measured table drives along straight lines', () => {
    const data = [{ name: 'gauge', times: [0, 2, 4], values: [0, 2, 2] }];
    close(values('1/s', { kind: 'data', name: 'gauge' }, { data }), (t) => (t < 2 ? (t * t) / 2 : 2 * t - 2));
    expect(() => values('1/s', { kind: 'data', name: 'lost' }, { data })).toThrow(/no table “lost”/);
  });

  test.each<[SheetDrive, number, number]>([
    [{ kind: 'step', from: -1, to: 2, at: 3 }, 2.9, -1],
    [{ kind: 'step', from: -1, to: 2, at: 3 }, 3.1, 2],
    [{ kind: 'ramp', size: 2, at: 1 }, 3, 4],
    [{ kind: 'parabola', size: 2, at: 1 }, 3, 4],
    [typed('t^2'), 3, 9],
  ])('is drawn as it is: %j', (drive, time, value) => {
    const points = driveLine(drive, around, 6);
    const next = points.findIndex((point) => point.time > time);
    const [left, right] = [points[next - 1]!, points[next]!];
    const share = (time - left.time) / (right.time - left.time);
    expect(left.value + share * (right.value - left.value)).toBeCloseTo(value, 2);
  });
});

describe('equations and states as lines', () => {
  const spring = "m*x'' + b*x' + k*x = F";
  test('a differential equation as it stands in a book', () => {
    const read = systemIn(readLines(lines('m = 2', 'b = 3', 'k = 8', `G = ${spring}`)).at(-1));
    expect(read.plant?.inputs).toEqual(['F']);
    expect(read.members[0]?.transfer).toEqual(systemFrom('1/(2*s^2 + 3*s + 8)', { names: new Map() }));
  });

  test.each([
    ["y'' + 1.2y' + 4y = 4u' + 8u", '(4*s + 8)/(s^2 + 1.2*s + 4)'],
    ["4y - y'' = u", '1/(4 - s^2)'],
    ["5y' = 2u - y", '2/(5*s + 1)'],
  ])('%s', (text, same) => {
    const found = curveOf(
      drivenMotion(
        { transfer: systemIn(readLines(lines(`G = ${text}`))[0]).members[0]!.transfer },
        { kind: 'impulse', size: 1, at: 0 },
        around,
        3,
      ),
      3,
      1e-3,
    );
    const wanted = drivenMotion(system(same), { kind: 'impulse', size: 1, at: 0 }, around, 3);
    found.times.forEach((time, k) => expect(found.values[k]).toBeCloseTo(wanted.at(time), 8));
  });

  test('signals of a loop, driven from either of its inputs or from both', () => {
    const loop = { ...lines('T = e = r - y; u = C*e; y = G*(u + d)')[0]!, probes: ['y', 'u'] };
    const given = lines('C = 4', 'G = 1/(s + 1)');
    const read = systemIn(readLines([...given, { ...loop, from: 'd' }]).at(-1));
    expect(read.plant).toMatchObject({ inputs: ['r', 'd'], signals: ['e', 'u', 'y'], from: 'd' });
    expect(read.members.map(({ words }) => words)).toEqual(['y', 'u']);
    const end = (of: (typeof read.members)[number]['transfer']) =>
      drivenMotion({ transfer: of }, emptySheet.drives[0]!, around, 9).at(60);
    expect(read.members.map(({ transfer }) => end(transfer))).toEqual([expect.closeTo(0.2), expect.closeTo(-0.8)]);
    const both = systemIn(readLines([...given, { ...loop, from: '' }]).at(-1));
    expect(both.members[0]?.parts?.map(({ input, transfer }) => [input, end(transfer)])).toEqual([
      ['r', expect.closeTo(0.8)],
      ['d', expect.closeTo(0.2)],
    ]);
  });

  test('states with every state to look at, from initial states', () => {
    const text = 'G = states([0 1; -4 -w], [0; 4], [1 0], 0)';
    const read = systemIn(readLines(lines('w = 1.2', text)).at(-1));
    expect(read.members[0]?.transfer).toEqual(systemFrom('4/(s^2 + 1.2*s + 4)', { names: new Map() }));
    expect(read.plant?.signals).toEqual(['y', 'x1', 'x2']);
    const second = systemIn(readLines([...lines('w = 0'), { ...lines(text)[0]!, probes: ['x2'] }]).at(-1));
    const motion = drivenMotion(second.members[0]!, { kind: 'none' }, { ...around, initial: [1, 0] }, 6);
    times.forEach((time) => expect(motion.at(time)).toBeCloseTo(-2 * Math.sin(2 * time), 8));
  });

  test.each([
    ['G = y = K*u', /“K” has no value/],
    ['G = y = 2*y', /Nothing drives/],
    ['G = states([0 1; -4 -1], [0; 4])', /states\(A, B, C, D\)/],
    ['G = states([0 1; -4 -1], [0; 4; 1], [1 0])', /B 2 × 1/],
    ['G = states([0 1; -4], [0; 4], [1 0])', /A/],
  ])('%s is refused in words', (text, words) => {
    expect(said(readLines(lines(text))[0])).toMatch(words);
  });
});

describe('a sheet from elsewhere', () => {
  const before = { format: 1, title: 'Winch', lines: [{ name: 'G', text: '1/s' }] };
  test('has its one input where it was written before there were several', () => {
    const step = sheetFrom({ ...before, input: 'step', size: 3, at: 2 });
    expect(step.drives).toEqual([{ kind: 'step', from: 0, to: 3, at: 2 }]);
    expect(sheetFrom({ ...before, input: 'ramp', size: 3, at: 2 }).drives).toEqual([{ kind: 'ramp', size: 3, at: 2 }]);
  });

  test('comes back as it was', () => {
    const sheet = {
      ...emptySheet,
      drives: [typed('t'), { kind: 'data', name: 'gauge' }, { kind: 'none' }] as SheetDrive[],
      initial: [1, -2],
      unit: 'min' as const,
      nails: [{ quantity: 'overshootPercent', relation: 'atMost', limit: 10 }] as const,
      data: [{ name: 'gauge', times: [0, 1], values: [0, 2] }],
    };
    expect(sheetFrom(JSON.parse(JSON.stringify(sheet)))).toEqual(sheet);
  });

  test.each([
    [{ drives: [{ kind: 'square' }] }, /input is none/],
    [{ drives: [{ kind: 'typed' }] }, /has no text/],
    [{ drives: [1, 2, 3, 4].map(() => ({ kind: 'none' })) }, /up to 3 inputs/],
    [{ drives: [{ kind: 'sine', omega: 0 }] }, /no size/],
    [{ initial: ['1'] }, /initial value 1/],
    [{ nails: [{ quantity: 'beauty', relation: 'atMost', limit: 1 }] }, /nail 1/],
    [{ data: [{ name: 'a', times: [0, 0], values: [1, 2] }] }, /rising times/],
    [{ data: [{ name: 'a', omegas: [1, 2], magnitudesDb: [1], phasesDegrees: [0, 0] }] }, /level and phase/],
    [{ data: [{ name: 'a', times: [0, 1], values: [1, null] }] }, /no number/],
  ])('is refused: %j', (more, words) => {
    expect(() => sheetFrom({ ...before, ...more })).toThrow(words);
  });
});

describe('a loop with limits as a line', () => {
  const given = lines('G = 1/(4*s + 1)', 'Kp = 3', 'Ki = 2');
  const step: SheetDrive = { kind: 'step', from: 0, to: 1, at: 0 };
  const member = (text: string, probes: string[] = ['y']) => {
    const [own] = lines(`T = ${text}`);
    return systemIn(readLines([...given, { ...own!, probes }]).at(-1)).members[0]!;
  };

  test('keeps its effort within them, and is the linear loop where it does not meet them', () => {
    const tight = drivenMotion(member('limited(G, Kp, Ki, 0, -1.2, 1.2)', ['u']), step, around, 20);
    const efforts = Array.from({ length: 200 }, (_, k) => tight.at(k / 10));
    expect(Math.max(...efforts)).toBeCloseTo(1.2, 6);
    const wide = drivenMotion(member('limited(G, Kp, Ki, 0, -100, 100)'), step, around, 20);
    const linear = drivenMotion(system('(3*s + 2)/(4*s^2 + 4*s + 2)'), step, around, 20);
    times.forEach((time) => expect(wide.at(time)).toBeCloseTo(linear.at(time), 6));
  });

  test('overshoots less with anti-windup, and its measures are those of what is drawn', () => {
    const of = (text: string) => {
      const { transfer, limited } = member(text);
      return factsOf(transfer, limited).measures!.overshootPercent!;
    };
    const [winding, tracking] = [of('limited(G, Kp, Ki, 0, -1.2, 1.2)'), of('limited(G, Kp, Ki, 0, -1.2, 1.2, 0.5)')];
    expect(winding).toBeGreaterThan(tracking + 1);
    const motion = drivenMotion(member('limited(G, Kp, Ki, 0, -1.2, 1.2)'), step, around, 40);
    const peak = Math.max(...Array.from({ length: 4000 }, (_, k) => motion.at(k / 100)));
    expect(100 * (peak - 1)).toBeCloseTo(winding, 1);
  });

  test.each([
    ['limited(G, 1, 1)', /limited\(G, Kp/],
    ['limited(G, 1, 1, 0, 2, 1)', /lower limit/],
    ['limited(G, 1, 1, 0.5, -1, 1)', /filter time/],
  ])('%s is refused in words', (text, words) => {
    expect(said(readLines([...given, ...lines(`T = ${text}`)]).at(-1))).toMatch(words);
  });
});

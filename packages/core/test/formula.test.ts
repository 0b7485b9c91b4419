import { holds, numberFrom, parametersOf, readCondition, type Scope, scopeOf, systemFrom } from '../src/index';
import { isSameTransfer } from '../src/system/transferAlgebra';

const system = (name: string, text: string) => ({ name, meaning: '', form: { kind: 'expression' as const, text } });
const given = {
  systems: [
    system('G', 'K/(s^2 + 2*zeta*wn*s + wn^2)'),
    system('H', '1/(0.1s + 1)'),
    system('T', 'closed(G, H)'),
    system('D', '2*exp(-0.5 s)/(s + 1)'),
    {
      name: 'M',
      meaning: '',
      form: {
        kind: 'equations' as const,
        text: 'e = r - y\nu = C*e\ny = G*(u + d)\nwhere C = 5',
        from: 'r',
        to: 'y',
      },
    },
  ],
};
const scope: Scope = scopeOf(given, { K: '8', zeta: '0.25', wn: '2' });
const number = (text: string) => numberFrom(text, scope);
const same = (left: string, right: string) => isSameTransfer(systemFrom(left, scope), systemFrom(right, scope));

describe('formulas', () => {
  test.each<[string, number]>([
    ['wn*sqrt(1 - zeta^2)', 2 * Math.sqrt(1 - 0.0625)],
    ['dampedFrequency(G)', 2 * Math.sqrt(1 - 0.0625)],
    ['100*exp(-pi*zeta/sqrt(1 - zeta^2))', 100 * Math.exp((-Math.PI * 0.25) / Math.sqrt(1 - 0.0625))],
    ['overshootPercent(G)', 100 * Math.exp((-Math.PI * 0.25) / Math.sqrt(1 - 0.0625))],
    ['finalValue(G)', 2],
    ['gainAtRest(G*H)', 2],
    ['dcGain(G*H)', 2],
    ['at(H, 0.1)', 1 - Math.exp(-1)],
    ['time63(H)', 0.1],
    ['bandwidth(H)', 10],
    ['stepError(G)', 1 / 3],
    ['rampError(4/(s*(s+0.8)))', 0.2],
    ['velocityConstant(4/(s*(s+0.8)))', 5],
    ['gainMargin(4/(s+1)^3)', 2],
    ['gainMarginDb(0.8/(s+1)^3)', 20],
    ['phaseCrossover(1/(s+1)^3)', Math.sqrt(3)],
    ['magnitude(H, 10)', 1 / Math.sqrt(2)],
    ['phase(H, 10)', -45],
    ['min(3, wn, 5)', 2],
    ['round(sqrt(2), 2)', 1.41],
    ['2^0.5', Math.SQRT2],
    ['apart(1/((s+1)*(s+3)))', 2],
    ['apart(1/(s+1)^2)', 0],
    ['order(G*H)', 3],
    ['largestMagnitude(H)', 1],
    ['integralAbsolute(s/(s+2)*1/(1))', 0.5],
    ['dampingRatio(G)', 0.25],
    ['slowestRealPart(1/((s+1)*(s+3)))', -1],
    ['delayTime(D)', 0.5 + Math.LN2],
  ])('%s is %d', (text, value) => {
    expect(number(text)).toBeCloseTo(value, 6);
  });

  test('systems combine exactly', () => {
    expect(same('T', 'G/(1 + G*H)')).toBe(true);
    expect(same('closed(3/s)', '3/(s+3)')).toBe(true);
    // The name that stored exercises may still use.
    expect(same('feedback(3/s)', '3/(s+3)')).toBe(true);
    expect(same('y/r', '5*G/(1 + 5*G)')).toBe(true);
    expect(same('e/d', '-G/(1 + 5*G)')).toBe(true);
    expect(same('M', 'y/r')).toBe(true);
    expect(same('D', 'D + 0.001')).toBe(false);
    expect(same('closed(D)', '2*exp(-0.5s)/(s + 1 + 2*exp(-0.5s))')).toBe(true);
  });

  test.each<[string, RegExp]>([
    ['overshootPercent(G', /never closed/],
    ['overshootPercent(G, H)', /is written overshootPercent\(T\)/],
    ['q + 1', /“q” is not known/],
    ['peakTime(H)', /Peak time: this system has none/],
    ['riseTime(1/(s-1))', /the system is unstable/],
    ['at(H, G)', /depends on s/],
    ['G', /depends on s/],
    ['sqrt(-1)', /no value/],
    ['closed(-1/1)', /not well posed|zero/],
    ['1,5', /missing|comma|point|value|meaning/],
  ])('%s is refused', (text, message) => {
    expect(() => number(text)).toThrow(message);
  });

  test('students may use parameters, not the systems or the functions', () => {
    const own = parametersOf({ K: '8' });
    expect([...own.names.keys()]).toEqual(['K']);
    expect(() => numberFrom('gainAtRest(G)', own)).toThrow(/“G” is not known/);
  });
});

describe('conditions', () => {
  const check = (text: string) => holds(readCondition(text), scope);

  test.each([
    ['5 <= overshootPercent(G) <= 50', true],
    ['overshootPercent(G) <= 5', false],
    ['zeta < 1', true],
    ['stable(T)', true],
    ['stable(1/(s-1))', false],
    ['peakTime(H) < 10', false],
    ['apart(T) ≥ 0.1', true],
  ])('%s: %s', (text, expected) => {
    expect(check(text)).toBe(expected);
  });

  test('a mistake is found at its place', () => {
    expect(() => readCondition('zeta < (1')).toThrow(/never closed/);
    expect(() => readCondition('1 < 2 < 3 < 4')).toThrow(/two comparisons/);
    expect(() => readCondition('zeta <')).toThrow();
  });
});

import { emptySheet, type LinePanes, type Sheet, type SheetLine } from '@nailset/core';

type Line = readonly [name: string, text: string, drawn?: boolean, panes?: LinePanes, more?: Partial<SheetLine>];

const sheet = (title: string, lines: readonly Line[], more: Partial<Sheet> = {}): Sheet => ({
  ...emptySheet,
  title,
  lines: lines.map(([name, text, drawn = true, panes = 'all', more]): SheetLine => ({
    name,
    text,
    drawn,
    panes,
    ...more,
  })),
  ...more,
});

/** Scatter of a gauge on the quay: the same on every machine, without a pattern to the eye. */
const scatter = (k: number): number => Math.sin(12.9898 * k) * Math.cos(78.233 * k * k);

/** How far a fender gave way after a push, every fifth of a second. */
function gauge() {
  const times = Array.from({ length: 31 }, (_, k) => Number((0.2 * k).toFixed(1)));
  const [decay, swing] = [1.8, 2.4];
  const values = times.map((t, k) => {
    const still = 1 - Math.exp(-decay * t) * (Math.cos(swing * t) + (decay / swing) * Math.sin(swing * t));
    return Number((still + 0.02 * scatter(k + 1)).toFixed(3));
  });
  return { name: 'fender 2, measured', times, values };
}

/** Systems of the harbour to begin with. */
export const examples: readonly Sheet[] = [
  sheet('Winch and its controller', [
    ['G', '4/(s*(s + 2))', false],
    ['Kp', '1.5; 4; 9'],
    ['Kd', '0.6'],
    ['C', 'Kp + Kd*s', false],
    ['L', 'C*G', true, 'frequency'],
    ['T', 'closed(L)'],
  ]),
  sheet(
    'Fenders of three makes, one measured',
    [
      ['F1', '9/(s^2 + 0.9*s + 9)'],
      ['F2', '9/(s^2 + 3.6*s + 9)'],
      ['F3', '9/(s^2 + 7.5*s + 9)'],
    ],
    { data: [gauge()] },
  ),
  sheet(
    'Drive with load torque',
    [
      ['J', '0.4'],
      ['b', '0.1'],
      ['C', '2 + 3/s', false],
      [
        'D',
        'e = r - w; u = C*e; w = (u - M)/(J*s + b)',
        true,
        'all',
        { from: '', probes: ['w', 'u'], groups: [{ name: 'drum', signals: ['w'], closed: false }] },
      ],
    ],
    {
      drives: [
        { kind: 'step', from: 0, to: 1, at: 0 },
        { kind: 'step', from: 0, to: 0.6, at: 4 },
      ],
    },
  ),
  sheet('Lock gate from its equations', [
    ['J', '3'],
    ['b', '1.5'],
    ['tau', '0.4'],
    ['G', "tau*M' + M = 2*u; J*a'' + b*a' = M", false, 'all', { probes: ['a'] }],
    ['K', '0.2; 0.5; 1.2'],
    ['L', 'K*G', true, 'frequency'],
    ['T', 'closed(L)', true, 'time'],
  ]),
];

import { emptySheet, type LinePanes, type Sheet, type SheetLine } from '@nailset/core';

const sheet = (
  title: string,
  lines: readonly (readonly [name: string, text: string, drawn?: boolean, panes?: LinePanes])[],
): Sheet => ({
  ...emptySheet,
  title,
  lines: lines.map(([name, text, drawn = true, panes = 'all']): SheetLine => ({ name, text, drawn, panes })),
});

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
  sheet('Fenders of three makes', [
    ['F1', '9/(s^2 + 0.9*s + 9)'],
    ['F2', '9/(s^2 + 3.6*s + 9)'],
    ['F3', '9/(s^2 + 7.5*s + 9)'],
  ]),
  sheet('Drive with load torque', [
    ['J', '0.4'],
    ['b', '0.1'],
    ['G', '1/(J*s + b)', false],
    ['C', '2 + 3/s', false],
    ['W', 'closed(C*G)'],
    ['D', 'G/(1 + C*G)'],
  ]),
  sheet('Lock gate with dead time', [
    ['G', '2*exp(-0.5*s)/(5*s + 1)'],
    ['K', '0.8; 2.4'],
    ['L', 'K*(1 + 1/(5*s))*G', true, 'frequency'],
    ['T', 'closed(L)', true, 'time'],
  ]),
];

import { type Design, sheetLimits, type SheetLine } from '@nailset/core';

/** What can be added to a sheet at once: numbers to be nudged, and what they make. `@` is the chosen system. */
export interface Start {
  readonly words: string;
  readonly lines: readonly (readonly [name: string, text: string, drawn?: boolean])[];
}

export const starts: readonly Start[] = [
  {
    words: 'second order: K, ζ, ωn',
    lines: [
      ['K', '1'],
      ['zeta', '0.4'],
      ['wn', '3'],
      ['G', 'K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)'],
    ],
  },
  {
    words: 'second order: K, ζ, τ',
    lines: [
      ['K', '1'],
      ['zeta', '0.4'],
      ['tau', '0.5'],
      ['G', 'K/(tau^2*s^2 + 2*zeta*tau*s + 1)'],
    ],
  },
  {
    words: 'first order with dead time: K, τ, T',
    lines: [
      ['K', '2'],
      ['tau', '5'],
      ['Td', '0.5'],
      ['G', 'K*exp(-Td*s)/(tau*s + 1)'],
    ],
  },
  { words: 'coefficients, highest power first', lines: [['G', '[4]/[1, 1.2, 4]']] },
  { words: 'gain, zeros and poles, a pair as (s − σ)² + ω²', lines: [['G', '3*(s + 2)/((s + 1)*((s + 1)^2 + 2^2))']] },
  { words: 'a differential equation', lines: [['G', "x'' + 1.2*x' + 4*x = 4*u"]] },
  { words: 'signal equations, with their drawing', lines: [['D', 'e = r - y; u = 2*e; y = 3/(s + 1)*(u + d)']] },
  { words: 'state matrices A, B, C, D', lines: [['G', 'states([0 1; -4 -1.2], [0; 4], [1 0], 0)']] },
  {
    words: 'PID in front of it, loop closed',
    lines: [
      ['Kp', '2'],
      ['Ki', '1'],
      ['Kd', '0.2'],
      ['C', 'Kp + Ki/s + Kd*s', false],
      ['L', 'C*@', false],
      ['T', 'closed(L)'],
      ['U', 'C/(1 + L)', false],
    ],
  },
  {
    words: 'PID by Kp, Ti, Td in front of it, loop closed',
    lines: [
      ['Kp', '2'],
      ['Ti', '2'],
      ['Td', '0.1'],
      ['C', 'Kp*(1 + 1/(Ti*s) + Td*s)', false],
      ['L', 'C*@', false],
      ['T', 'closed(L)'],
      ['U', 'C/(1 + L)', false],
    ],
  },
  {
    words: 'PI with limits, without and with anti-windup',
    lines: [
      ['Kp', '3'],
      ['Ki', '2'],
      ['low', '-1.5'],
      ['high', '1.5'],
      ['W', 'limited(@, Kp, Ki, 0, low, high)'],
      ['A', 'limited(@, Kp, Ki, 0, low, high, 0.5)'],
    ],
  },
  {
    words: 'lead or lag in front of it, loop closed',
    lines: [
      ['K', '4'],
      ['z', '2'],
      ['p', '10'],
      ['C', 'K*(s + z)/(s + p)', false],
      ['L', 'C*@', false],
      ['T', 'closed(L)'],
      ['U', 'C/(1 + L)', false],
    ],
  },
  { words: 'loop closed round it', lines: [['T', 'closed(@)']] },
  { words: 'error of the loop with it', lines: [['E', '1/(1 + @)']] },
];

/** The lines of a start, with names that are free, about a system of the sheet. */
export function linesOf(start: Start, taken: readonly string[], about: string): SheetLine[] {
  const names = new Set(taken);
  const renamed = new Map<string, string>();
  for (const [name] of start.lines) {
    let free = name;
    for (let k = 1; names.has(free); k++) free = `${name}${k}`;
    names.add(free);
    renamed.set(name, free);
  }
  return start.lines.map(([name, text, drawn = true]) => ({
    ...{ name: renamed.get(name) ?? name, drawn, panes: 'all' as const },
    text: text.replace(/@|[A-Za-z]+/g, (word) => (word === '@' ? about : (renamed.get(word) ?? word))),
  }));
}

/** Whether it is about a system that must be there. */
export const isAboutSystem = ({ lines }: Start): boolean => lines.some(([, text]) => text.includes('@'));

export const hasRoom = (start: Start, lines: number): boolean => lines + start.lines.length <= sheetLimits.lines;

/** The numbers and the formula of a controller, the loop with it, and the loop closed. */
export function designLines({ formula, numbers }: Design, lines: readonly SheetLine[], about: string): SheetLine[] {
  const gainLines = Object.entries(numbers).map(
    ([name, value]) => [name, String(Number(value.toPrecision(5)))] as const,
  );
  const start: Start = {
    words: '',
    lines: [...gainLines, ['C', formula, false], ['L', 'C*@', false], ['T', 'closed(L)'], ['U', 'C/(1 + L)', false]],
  };
  const taken = lines.map(({ name }) => name);
  return linesOf(start, taken, about);
}

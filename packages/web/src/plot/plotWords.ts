import { formatNumber, formatPoints, must, type ShownPlot } from '@nailset/core';

/** What a small plot shows, in words: for who does not see it, and no more than who sees it reads off it. */
export function plotWords({ kind, lines, marks }: ShownPlot): string {
  const [first, second] = lines;
  switch (kind) {
    case 'step':
      return first ? stepWords(first) : '';
    case 'poles':
      return marksWords(marks);
    case 'locus':
      return `${lines.length} ${lines.length === 1 ? 'branch' : 'branches'}. ${marksWords(marks)} ${lines.map(branchWords).join(' ')}`;
    case 'bode':
      return first && second ? `Magnitude ${overFrequency(first, ' dB')} Phase ${overFrequency(second, '°')}` : '';
    case 'nyquist':
      return first ? nyquistWords(first) : '';
  }
}

type Line = ShownPlot['lines'][number];

const n = formatNumber;
/** A place on a plane: −1.5 − 2j. */
const place = ({ x, y }: { x: number; y: number }): string =>
  y === 0 ? n(x) : `${n(x)} ${y < 0 ? '−' : '+'} ${n(Math.abs(y))}j`;
const at = ({ x, y }: Line, k: number): { x: number; y: number } => ({ x: must(x[k]), y: must(y[k]) });

/** Where a line has its largest or smallest value. */
const extreme = ({ y }: Line, sign: 1 | -1): number =>
  y.reduce((best, v, k) => (sign * v > sign * must(y[best]) ? k : best), 0);

function stepWords(line: Line): string {
  const end = at(line, line.x.length - 1);
  const [high, low] = [at(line, extreme(line, 1)), at(line, extreme(line, -1))];
  const span = high.y - low.y || 1;
  const beyond = (place: { y: number }) => Math.abs(place.y - end.y) > 0.02 * span;
  const start = must(line.y[0]);
  return [
    `From ${n(start)} to ${n(end.y)} at ${n(end.x)} s.`,
    ...(beyond(high) && high.y > start ? [`Highest ${n(high.y)} at ${n(high.x)} s.`] : []),
    ...(low.y < Math.min(start, end.y) - 0.02 * span ? [`Lowest ${n(low.y)} at ${n(low.x)} s.`] : []),
    turnsWords(line, 0.02 * span),
  ].join(' ');
}

/** How often a line turns back by more than so much. */
function turnsWords({ y }: Line, least: number): string {
  let turns = 0;
  let direction = 0;
  let edge = must(y[0]);
  for (const value of y) {
    const change = value - edge;
    if (direction !== 0 && Math.sign(change) === direction) edge = value;
    else if (Math.abs(change) > least) {
      if (direction !== 0) turns += 1;
      direction = Math.sign(change);
      edge = value;
    }
  }
  return turns === 0 ? 'It never turns back.' : `It turns back ${turns === 1 ? 'once' : `${turns} times`}.`;
}

function marksWords(marks: ShownPlot['marks']): string {
  const said = (what: 'pole' | 'zero') => {
    const points = marks.filter((mark) => mark.what === what).map(({ x, y }) => ({ re: x, im: y }));
    return points.length === 0 ? `No ${what}s.` : `${what === 'pole' ? 'Poles' : 'Zeros'} at ${formatPoints(points)}.`;
  };
  return `${said('pole')} ${said('zero')}`;
}

function branchWords(line: Line): string {
  return `One from ${place(at(line, 0))} towards ${place(at(line, line.x.length - 1))}.`;
}

function overFrequency(line: Line, unit: string): string {
  const [start, end, high] = [at(line, 0), at(line, line.x.length - 1), at(line, extreme(line, 1))];
  const span = high.y - at(line, extreme(line, -1)).y || 1;
  const peak = high.y - Math.max(start.y, end.y) > 0.02 * span ? `, highest ${n(high.y)}${unit} at ${n(high.x)}` : '';
  return `from ${n(start.y)}${unit} at ${n(start.x)} to ${n(end.y)}${unit} at ${n(end.x)} rad/s${peak}.`;
}

/** What is too small to be seen beside the rest is zero. */
function near({ x, y }: { x: number; y: number }, line: Line): { x: number; y: number } {
  const least = 2e-3 * Math.max(...line.x.map(Math.abs), ...line.y.map(Math.abs));
  return { x: Math.abs(x) < least ? 0 : x, y: Math.abs(y) < least ? 0 : y };
}

function nyquistWords(line: Line): string {
  const [start, end] = [at(line, 0), at(line, line.x.length - 1)];
  const crossings = line.x.flatMap((x, k) => {
    if (k === 0 || must(line.y[k - 1]) * must(line.y[k]) >= 0) return [];
    const [before, after] = [must(line.y[k - 1]), must(line.y[k])];
    return [must(line.x[k - 1]) + (before / (before - after)) * (x - must(line.x[k - 1]))];
  });
  const crossed =
    crossings.length === 0
      ? 'It does not cross the real axis'
      : `It crosses the real axis at ${crossings.map(n).join(', ')}`;
  return `From ${place(near(start, line))} to ${place(near(end, line))}. ${crossed}.`;
}

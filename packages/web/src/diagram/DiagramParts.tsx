import type { Drawing, Line, Point, Shape } from '@nailset/core/diagrams';
import { type BlockDiagram, isNamed } from '@nailset/core/diagrams';
import { nameRuns, plain, type Run, widthOf, written } from '@nailset/core/diagrams';

/** Colours stand in the picture itself, so that it can be taken away as a file. */
export const ink = 'var(--color-ink)';
const slate = 'var(--color-slate)';
export const petrol = 'var(--color-petrol)';
const wash = 'var(--color-wash)';
export const brick = 'var(--color-brick)';
export const plum = 'var(--color-plum)';
const sheet = 'var(--color-sheet)';
const serif = "'IBM Plex Serif', Georgia, serif";

/** How a part stands out. */
export type Look = 'plain' | 'picked' | 'traced' | 'marked';
const strokes: Record<Look, string> = { plain: ink, picked: petrol, traced: petrol, marked: brick };

/** Typeset text around a middle, or from a start. */
export function Words({
  runs,
  x,
  y,
  anchor = 'middle',
  fill = ink,
}: {
  runs: readonly Run[];
  x: number;
  y: number;
  anchor?: 'start' | 'middle' | 'end';
  fill?: string;
}) {
  const shift = { line: 0, below: 4, above: -6 } as const;
  return (
    <text x={x} y={y} textAnchor={anchor} fontFamily={serif} fontSize={15} fill={fill}>
      {runs.map(({ text, slanted, place }, k) => (
        <tspan
          key={k}
          fontStyle={slanted ? 'italic' : 'normal'}
          fontSize={place === 'line' ? 15 : 10.5}
          dy={shift[place] - (k > 0 ? shift[runs[k - 1]!.place] : 0)}
          xmlSpace="preserve"
        >
          {text}
        </tspan>
      ))}
    </text>
  );
}

/** A block, a sum, a tap or the end of a line, around its own corner. */
export function ShapeMark({ shape, gain, look, dot }: { shape: Shape; gain?: string; look: Look; dot: boolean }) {
  const { kind, signal, width, height } = shape;
  const stroke = strokes[look];
  const strong = look === 'plain' ? 1.3 : 2.2;
  switch (kind) {
    case 'block': {
      const shown = written(gain ?? '');
      return (
        <>
          <rect
            width={width}
            height={height}
            fill={look === 'picked' ? wash : sheet}
            stroke={stroke}
            strokeWidth={strong}
          />
          {'line' in shown ? (
            <Words runs={shown.line} x={width / 2} y={height / 2 + 5} />
          ) : (
            <>
              <Words runs={shown.above} x={width / 2} y={height / 2 - 6} />
              <path
                d={`M${width / 2 - barOf(shown) / 2} ${height / 2}h${barOf(shown)}`}
                stroke={ink}
                strokeWidth={1}
                fill="none"
              />
              <Words runs={shown.below} x={width / 2} y={height / 2 + 16} />
            </>
          )}
        </>
      );
    }
    case 'sum':
      return (
        <circle
          cx={width / 2}
          cy={height / 2}
          r={width / 2}
          fill={look === 'picked' ? wash : sheet}
          stroke={stroke}
          strokeWidth={strong}
        />
      );
    case 'group':
      return (
        <>
          <rect width={width} height={height} rx="5" fill={sheet} stroke={plum} strokeWidth={1.6} />
          <rect width={width} height={height} rx="5" fill={plum} opacity="0.1" />
          <Words runs={[plain(signal)]} x={width / 2} y={height / 2 + 5} fill={plum} />
        </>
      );
    case 'input':
      return <Words runs={nameRuns(signal)} x={width / 2} y={height / 2 + 5} fill={stroke} />;
    case 'output':
      return <Words runs={nameRuns(signal)} x={8} y={height / 2 + 5} anchor="start" fill={stroke} />;
    case 'tap':
    case 'line':
      return (
        <>
          <circle cx={width / 2} cy={height / 2} r={9} fill={look === 'picked' ? wash : 'transparent'} />
          {(dot || look !== 'plain') && <circle cx={width / 2} cy={height / 2} r={3.2} fill={stroke} />}
        </>
      );
  }
}

const barOf = (shown: { above: readonly Run[]; below: readonly Run[] }): number =>
  Math.max(widthOf(shown.above), widthOf(shown.below)) + 2;

/** A line with its arrow, its sign at a sum, and the name of its signal where it starts. */
export function LineMark({ line, look, name }: { line: Line; look: Look; name: string | undefined }) {
  const { points, sign, signAt, to } = line;
  const stroke = strokes[look];
  const [start, second] = points;
  const last = points.at(-1);
  if (!start || !second || !last) return null;
  const before = points.at(-2)!;
  const leftwards = second.x < start.x;
  return (
    <>
      <path d={pathOf(points)} fill="none" stroke="transparent" strokeWidth={14} />
      <path
        d={pathOf(points)}
        fill="none"
        stroke={stroke}
        strokeWidth={look === 'plain' ? 1.3 : 2.4}
        strokeLinejoin="round"
      />
      {!to.startsWith('tap ') && <path d={arrowAt(before, last)} fill={stroke} />}
      {sign && signAt && <Words runs={[{ text: sign > 0 ? '+' : '−', slanted: false, place: 'line' }]} {...signAt} />}
      {name && (
        <Words
          runs={nameRuns(name)}
          x={start.x + (leftwards ? -6 : 6)}
          y={start.y - 6}
          anchor={leftwards ? 'end' : 'start'}
          fill={slate}
        />
      )}
    </>
  );
}

const pathOf = (points: readonly Point[]): string =>
  points.map(({ x, y }, k) => `${k === 0 ? 'M' : 'L'}${x} ${y}`).join('');

function arrowAt(from: Point, { x, y }: Point): string {
  const [dx, dy] = [Math.sign(x - from.x), Math.sign(y - from.y)];
  if (dx !== 0) return `M${x} ${y}l${-8 * dx} -3.5v7z`;
  return `M${x} ${y}l-3.5 ${-8 * dy}h7z`;
}

/** The name that a line bears: of its signal, on the first line that leaves it, unless it stands at an end. */
export function nameOnLine(diagram: BlockDiagram, { lines, shapes }: Drawing, line: Line): string | undefined {
  const { signal, id } = line;
  if (!isNamed(signal) || diagram.inputs.includes(signal)) return undefined;
  if (shapes.some((shape) => shape.kind === 'output' && shape.signal === signal)) return undefined;
  const sameSignal = lines.filter((other) => other.signal === signal);
  const first = sameSignal.find(({ to }) => to.startsWith('tap ')) ?? sameSignal[0];
  return first?.id === id ? signal : undefined;
}

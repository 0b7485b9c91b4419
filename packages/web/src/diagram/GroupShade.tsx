import { type Drawing, type DrawnGroup, plain } from '@nailset/core/diagrams';
import { plum, Words } from './DiagramParts';

/** How far it reaches round a part. */
const round = 9;

/**
 * Parts that belong together, on a shade that follows them and the lines between them: whatever else stands in between
 * stays outside. Their name is beside the highest of them.
 */
export function GroupShade({ group: { name, ids }, drawing }: { group: DrawnGroup; drawing: Drawing }) {
  const inside = (id: string) => ids.includes(id.replace(/^tap /, ''));
  const shapes = drawing.shapes.filter(({ id }) => inside(id));
  const [first] = [...shapes].sort((a, b) => a.y - b.y || a.x - b.x);
  if (!first) return null;
  const lines = drawing.lines.filter(({ signal, to }) => ids.includes(signal) && inside(to));
  return (
    <g data-group={name}>
      <g opacity="0.17" fill={plum} stroke={plum} strokeLinejoin="round" strokeLinecap="round">
        {shapes.map(({ id, x, y, width, height }) => (
          <rect
            key={id}
            {...{ x: x - round, y: y - round, width: width + 2 * round, height: height + 2 * round, rx: round }}
            stroke="none"
          />
        ))}
        {lines.map(({ id, points }) => (
          <path
            key={id}
            d={`M${points.map((at) => `${at.x} ${at.y}`).join('L')}`}
            fill="none"
            strokeWidth={2 * round}
          />
        ))}
      </g>
      <Words runs={[plain(name)]} x={first.x - round + 2} y={first.y - round - 4} anchor="start" fill={plum} />
    </g>
  );
}

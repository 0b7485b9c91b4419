import { type BlockDiagram, type DiagramNode, isNamed, sourcesOf } from './blocks.js';
import { type Flow, flowOf, type Side } from './flow.js';
import type { Graph, GraphEdge, GraphPort, Point } from './graph.js';
import type { DrawnGroup } from './groups.js';
import { plain, sizeOf, widthOf } from './mathRuns.js';

/** Something drawn at a place: a block, a sum, a tap, a closed group, or where a signal enters or leaves. */
export interface Shape extends Point {
  readonly id: string;
  /** The signal that it gives; the name of a group. */
  readonly signal: string;
  readonly kind: 'block' | 'sum' | 'line' | 'tap' | 'input' | 'output' | 'group';
  readonly width: number;
  readonly height: number;
}

/** A signal on its way to one of its users, in the direction in which it flows. */
export interface Line {
  readonly id: string;
  readonly signal: string;
  /** The node that uses it, and the term there; the tap, the closed group, or nothing when it leaves the diagram. */
  readonly to: string;
  readonly term: number;
  readonly points: readonly Point[];
  /** At a sum. */
  readonly sign?: 1 | -1;
  /** Where the sign stands: beside the end of the line, outside the circle. */
  readonly signAt?: Point;
}

export interface Drawing {
  readonly width: number;
  readonly height: number;
  readonly shapes: readonly Shape[];
  readonly lines: readonly Line[];
  /** Where a line parts. */
  readonly dots: readonly Point[];
}

/** What a drawing is known by: the same diagram with the same outputs is always drawn alike. */
export const drawingKey = (diagram: BlockDiagram, outputs: readonly string[]): string =>
  JSON.stringify([diagram, outputs]);

const sumSize = 28;
const stub = 38;

const options = {
  'elk.algorithm': 'layered',
  'elk.direction': 'RIGHT',
  'elk.edgeRouting': 'ORTHOGONAL',
  'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
  'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
  'elk.layered.nodePlacement.favorStraightEdges': 'true',
  'elk.spacing.nodeNode': '26',
  'elk.spacing.edgeNode': '26',
  'elk.spacing.edgeEdge': '14',
  'elk.layered.spacing.edgeNodeBetweenLayers': '18',
  'elk.layered.spacing.edgeEdgeBetweenLayers': '12',
  'elk.padding': '[top=24,left=10,bottom=18,right=10]',
};

/**
 * Places the parts of a diagram: forward path from left to right, feedback below, other inputs from above. Each closed
 * group is one block, with whatever enters and leaves it. The same diagram always gives the same drawing.
 */
export async function layoutOf(
  layOut: (graph: Graph) => Promise<Graph>,
  diagram: BlockDiagram,
  asked: readonly string[] = [],
  closed: readonly DrawnGroup[] = [],
): Promise<Drawing> {
  const flow = flowOf(diagram, asked, closed);
  const { children, edges } = graphOf(diagram, flow);
  const between = 34 + Math.max(0, ...flow.nodes.map(({ id }) => nameWidth(id)));
  const placed = await layOut({
    id: 'diagram',
    layoutOptions: { ...options, 'elk.layered.spacing.nodeNodeBetweenLayers': String(Math.min(between, 74)) },
    children,
    edges: edges.map(({ id, sources, targets, layoutOptions }) => ({ id, sources, targets, layoutOptions })),
  });
  return drawingFrom(placed, flow, edges);
}

type Child = Graph & { ports: GraphPort[] };
type Edge = GraphEdge & {
  readonly layoutOptions: Record<string, string>;
  /** Whether it is laid out against its direction. */
  readonly turned: boolean;
  readonly line: Omit<Line, 'points'>;
};

const nameWidth = (id: string): number => (isNamed(id) ? 8 * id.length : 0);

/** Everything that has a place, with the sides on which lines end. */
class Places {
  readonly all = new Map<string, Child>();

  add(id: string, width: number, height: number): Child {
    const made: Child = {
      ...{ id, width, height, ports: [] },
      layoutOptions: { 'elk.portConstraints': 'FIXED_SIDE', 'elk.portAlignment.default': 'CENTER' },
    };
    this.all.set(id, made);
    return made;
  }

  port(owner: string, side: Side, key: string): string {
    const id = `${owner}|${key}`;
    const { ports } = this.all.get(owner)!;
    if (!ports.some((known) => known.id === id)) {
      ports.push({ id, width: 0, height: 0, layoutOptions: { 'elk.port.side': side } });
    }
    return id;
  }
}

/** Blocks, sums, taps and ends, with their sizes. */
function placesOf(diagram: BlockDiagram, { nodes, above, tapped, outputs, groupOf, closed }: Flow): Places {
  const places = new Places();
  for (const { name, ids } of closed) {
    const entering = new Set(nodes.filter(({ id }) => ids.includes(id)).flatMap(sourcesOf));
    const height = Math.max(44, 18 * [...entering].filter((id) => !ids.includes(id)).length + 10);
    places.add(`group ${name}`, Math.max(48, widthOf([plain(name)]) + 28), height);
  }
  for (const input of diagram.inputs) if (!above.has(input)) places.add(`in ${input}`, nameWidth(input) + 10, 20);
  for (const node of nodes) {
    if (groupOf(node.id) !== undefined) continue;
    if (node.kind === 'block') {
      const { width, height } = sizeOf(node.gain);
      places.add(node.id, width, height);
    } else if (node.terms.length === 1 && node.terms[0]!.sign > 0) {
      places.add(node.id, 8, 8);
    } else {
      const sum = places.add(node.id, sumSize, sumSize);
      if (node.terms.some(({ of }) => above.has(of))) sum.labels = [roomAbove];
    }
  }
  for (const id of tapped) places.add(`tap ${id}`, 6, 6);
  for (const id of outputs) places.add(`out ${id}`, nameWidth(id) + 22, 20);
  return places;
}

/** Kept free over a sum for an input from above. */
const roomAbove = {
  ...{ text: ' ', width: 10, height: stub },
  layoutOptions: { 'elk.nodeLabels.placement': 'OUTSIDE V_TOP H_CENTER' },
};

/** The diagram as a graph to be laid out: places with ports, and lines between them. */
function graphOf(diagram: BlockDiagram, flow: Flow): { children: Child[]; edges: Edge[] } {
  const { nodes, above, tapped, outputs, groupOf } = flow;
  const places = placesOf(diagram, flow);
  const edges: Edge[] = [];
  const port = (owner: string, side: Side, key: string) => places.port(owner, side, key);
  const connect = (from: string, to: string, turned: boolean, straight: boolean, line: Omit<Line, 'points'>): void => {
    edges.push({
      id: line.id,
      sources: [turned ? to : from],
      targets: [turned ? from : to],
      layoutOptions: { 'elk.layered.priority.straightness': straight ? '10' : '1' },
      turned,
      line,
    });
  };

  const isBack = (id: string): boolean => flow.backward.has(id);
  /** Where a signal starts: its input, the closed group that it is made in, or its node. */
  const start = (id: string): string =>
    diagram.inputs.includes(id) ? `in ${id}` : groupOf(id) === undefined ? id : `group ${groupOf(id)}`;
  const out = (id: string): string => (groupOf(id) === undefined ? 'out' : `out ${id}`);
  for (const id of [...diagram.inputs.filter((input) => !above.has(input)), ...nodes.map((node) => node.id)]) {
    if (!tapped.has(id)) continue;
    const turned = isBack(id);
    connect(
      port(start(id), turned ? 'WEST' : 'EAST', out(id)),
      port(`tap ${id}`, turned ? 'EAST' : 'WEST', 'in'),
      turned,
      true,
      { id: `${id} to tap`, signal: id, to: `tap ${id}`, term: 0 },
    );
  }
  const leaving = (id: string, backwards: boolean): string => {
    if (!tapped.has(id))
      return port(start(id), backwards && !isBack(id) ? 'SOUTH' : isBack(id) ? 'WEST' : 'EAST', out(id));
    if (backwards) return isBack(id) ? port(`tap ${id}`, 'WEST', 'on') : port(`tap ${id}`, 'SOUTH', 'back');
    return isBack(id) ? port(`tap ${id}`, 'NORTH', 'up') : port(`tap ${id}`, 'EAST', 'out');
  };
  for (const node of nodes) {
    sourcesOf(node).forEach((signal, term) => {
      if (above.has(signal)) return;
      const turned = flow.turned(signal, node.id);
      const group = groupOf(node.id);
      if (group !== undefined) {
        const line = { id: `${signal} to group ${group}`, signal, to: `group ${group}`, term: 0 };
        // What a group uses several times enters it once, and what stays in it is not seen.
        if (groupOf(signal) === group || edges.some(({ id }) => id === line.id)) return;
        const isAside = diagram.inputs.indexOf(signal) > 0;
        const side = turned ? 'SOUTH' : isAside ? 'NORTH' : 'WEST';
        connect(leaving(signal, turned), port(line.to, side, `in ${signal}`), turned, !turned, line);
        return;
      }
      const sign = node.kind === 'sum' ? node.terms[term]!.sign : undefined;
      const isPlain = node.kind === 'sum' && node.terms.length === 1 && sign === 1;
      const side = node.kind === 'block' || isPlain ? (isBack(node.id) ? 'EAST' : 'WEST') : flow.sideOf(node, term);
      connect(leaving(signal, turned), port(node.id, side, `in ${term}`), turned, side === 'WEST', {
        id: `${signal} to ${node.id} ${term}`,
        signal,
        to: node.id,
        term,
        ...(sign !== undefined && !isPlain ? { sign } : {}),
      });
    });
  }
  for (const id of outputs) {
    connect(leaving(id, false), port(`out ${id}`, 'WEST', 'in'), false, true, {
      id: `${id} out`,
      signal: id,
      to: `out ${id}`,
      term: 0,
    });
  }
  return { children: [...places.all.values()], edges };
}

/** What was placed and routed, as it is drawn. */
function drawingFrom(
  { width = 0, height = 0, children: placed = [], edges: routed = [] }: Graph,
  flow: Flow,
  edges: readonly Edge[],
): Drawing {
  const { nodes } = flow;
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const shapes: Shape[] = placed.map(({ id, x = 0, y = 0, width: w = 0, height: h = 0 }) => {
    const [kind, signal] = kindOf(id, byId);
    return { id, signal, kind, x, y, width: w, height: h };
  });
  const at = new Map(shapes.map((shape) => [shape.id, shape]));
  const lines = edges.map(({ id, turned, line }): Line => {
    const section = routed.find((edge) => edge.id === id)?.sections?.[0];
    const points = section ? [section.startPoint, ...(section.bendPoints ?? []), section.endPoint] : [];
    const forward = turned ? [...points].reverse() : points;
    const target = at.get(line.to);
    const drawn = ontoCircles(fromMiddle(forward, at.get(`tap ${line.signal}`)), target);
    return { ...line, points: drawn, ...(line.sign && target ? { signAt: signPlace(drawn, target) } : {}) };
  });
  const stubs = stubsOf(flow, at);
  const all = [...shapes, ...stubs.map(({ shape }) => shape)];
  const lift = Math.max(0, 8 - Math.min(...all.map(({ y }) => y)));
  const lower = <Place extends Point>(place: Place): Place => ({ ...place, y: place.y + lift });
  return {
    width,
    height: height + lift,
    shapes: all.map(lower),
    lines: [...lines, ...stubs.map(({ line }) => line)].map((line) => ({
      ...line,
      points: line.points.map(lower),
      ...(line.signAt ? { signAt: lower(line.signAt) } : {}),
    })),
    dots: routed.flatMap((edge) => edge.junctionPoints ?? []).map(lower),
  };
}

/** Inputs that enter a sum from above. */
function stubsOf({ nodes, above }: Flow, at: ReadonlyMap<string, Shape>): { shape: Shape; line: Line }[] {
  return nodes.flatMap((node) =>
    sourcesOf(node).flatMap((signal, term): { shape: Shape; line: Line }[] => {
      if (!above.has(signal) || node.kind !== 'sum') return [];
      const sum = at.get(node.id)!;
      const x = sum.x + sum.width / 2;
      const top = sum.y - stub;
      return [
        {
          shape: { id: `in ${signal}`, signal, kind: 'input', x: x - 12, y: top - 18, width: 24, height: 18 },
          line: {
            id: `${signal} to ${node.id} ${term}`,
            signal,
            to: node.id,
            term,
            sign: node.terms[term]!.sign,
            signAt: { x: x + 11, y: sum.y - 5 },
            points: [
              { x, y: top },
              { x, y: sum.y },
            ],
          },
        },
      ];
    }),
  );
}

const ends: Readonly<Record<string, Shape['kind']>> = { in: 'input', out: 'output', group: 'group' };

function kindOf(id: string, nodes: ReadonlyMap<string, DiagramNode>): [Shape['kind'], string] {
  const node = nodes.get(id);
  if (node?.kind === 'block') return ['block', id];
  if (node) return [node.terms.length === 1 && node.terms[0]!.sign > 0 ? 'line' : 'sum', id];
  const [kind = '', ...rest] = id.split(' ');
  return [ends[kind] ?? 'tap', rest.join(' ')];
}

function signPlace(points: readonly Point[], { x: left, width }: Shape): Point {
  const { x, y } = points.at(-1)!;
  const before = points.at(-2) ?? { x, y };
  if (before.x < x) return { x: x - 14, y: y - 5 };
  if (before.x > x) return { x: x + 14, y: y - 5 };
  // Of two lines from one side, each has its sign on its own outer side.
  const beside = x < left + width / 2 - 1 ? -11 : 11;
  return before.y > y ? { x: x + beside, y: y + 14 } : { x: x + beside, y: y - 5 };
}

/** A line that begins or ends at the edge of a tap goes on to its middle. */
function fromMiddle(points: readonly Point[], tap: Shape | undefined): Point[] {
  if (!tap) return [...points];
  const middle = { x: tap.x + tap.width / 2, y: tap.y + tap.height / 2 };
  return points.map((point, k) => {
    const isEnd = k === 0 || k === points.length - 1;
    const near = Math.abs(point.x - middle.x) <= tap.width && Math.abs(point.y - middle.y) <= tap.height;
    return isEnd && near ? middle : point;
  });
}

/** A line that ends beside the middle of a sum's side goes on to its circle. */
function ontoCircles(points: readonly Point[], target: Shape | undefined): Point[] {
  const last = points.at(-1);
  if (!last || target?.kind !== 'sum') return [...points];
  const radius = target.width / 2;
  const [cx, cy] = [target.x + radius, target.y + radius];
  const [dx, dy] = [last.x - cx, last.y - cy];
  const flat = Math.abs(dx) >= radius - 0.5;
  const reach = Math.sqrt(Math.max(0, radius ** 2 - (flat ? dy : dx) ** 2));
  const end = flat ? { x: cx + Math.sign(dx) * reach, y: last.y } : { x: last.x, y: cy + Math.sign(dy) * reach };
  return [...points.slice(0, -1), end];
}

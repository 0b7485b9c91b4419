export interface Point {
  readonly x: number;
  readonly y: number;
}

/** A graph for the layout library, with places once it is laid out. Lengths in px. */
export interface Graph {
  id: string;
  x?: number;
  y?: number;
  width?: number;
  height?: number;
  layoutOptions?: Record<string, string>;
  ports?: GraphPort[];
  children?: Graph[];
  edges?: GraphEdge[];
  labels?: { text?: string; width?: number; height?: number }[];
}

export type GraphPort = Omit<Graph, 'ports' | 'children' | 'edges' | 'labels'>;

export interface GraphEdge {
  id: string;
  sources: string[];
  targets: string[];
  layoutOptions?: Record<string, string>;
  sections?: { id: string; startPoint: Point; endPoint: Point; bendPoints?: Point[] }[];
  /** Where the edge parts. */
  junctionPoints?: Point[];
}

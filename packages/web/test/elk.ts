import Elk, { type ElkNode } from 'elkjs/lib/elk.bundled.js';

const one = new Elk();

export const layOut = (graph: ElkNode): Promise<ElkNode> => one.layout(graph);

import { configure } from '@testing-library/react';
import Elk, { type ElkNode } from 'elkjs/lib/elk.bundled.js';

// A first layout takes its time on a busy machine.
configure({ asyncUtilTimeout: 4000 });

const one = new Elk();

export const layOut = (graph: ElkNode): Promise<ElkNode> => one.layout(graph);

export const beginLayout = (): void => undefined;

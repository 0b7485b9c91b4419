import { must } from '@nailset/core';
import type { Line } from '@nailset/core/diagrams';
import {
  addInput,
  addOutput,
  bind,
  type BlockDiagram,
  changeSign,
  feed,
  grouped,
  insertBlock,
  isNamed,
  type Place,
  removed,
  rename,
  setGain,
  signalWords,
  withoutTerm,
} from '@nailset/core/diagrams';

/** What a gesture asks before it is made. */
export type GestureField =
  | { readonly kind: 'text'; readonly label: string; readonly start: string; readonly optional?: boolean }
  | {
      readonly kind: 'choice';
      readonly label: string;
      readonly options: readonly (readonly [value: string, words: string])[];
    };

/** A change to what is chosen on the picture. */
export interface Gesture {
  readonly key: string;
  readonly words: string;
  readonly fields: readonly GestureField[];
  /** The changed diagram. @throws Problem saying what does not fit. */
  readonly run: (values: readonly string[]) => BlockDiagram;
}

const sign: GestureField = {
  kind: 'choice',
  label: 'Sign',
  options: [
    ['+', '+'],
    ['-', '−'],
  ],
};
const signOf = (value: string | undefined): 1 | -1 => (value === '-' ? -1 : 1);

/** The gestures for what is chosen: parts by their id, and a line. */
export function gesturesFor(diagram: BlockDiagram, picked: readonly string[], line: Line | undefined): Gesture[] {
  if (picked.length > 1) {
    const ids = picked.filter((id) => diagram.nodes.some((node) => node.id === id));
    return ids.length > 1 ? [group(diagram, ids)] : [];
  }
  if (line) return forLine(diagram, line);
  const [id] = picked;
  if (id === undefined) return [];
  if (id.startsWith('in ')) return forSignal(diagram, id.slice(3));
  if (id.startsWith('out ')) return [renaming(diagram, id.slice(4))];
  const node = diagram.nodes.find((candidate) => candidate.id === id);
  if (!node) return [];
  if (node.kind === 'block') return [...forBlock(diagram, id, node.gain), ...forSignal(diagram, id)];
  return [
    feeding(diagram, { sum: id }, 'F', 'Feed a signal in'),
    entering(diagram, { sum: id }),
    ...forSignal(diagram, id),
  ];
}

function forBlock(diagram: BlockDiagram, id: string, gain: string): Gesture[] {
  const isName = /^\p{L}[\p{L}\p{Nd}_]*$/u.test(gain);
  const meaning = diagram.where.find(([name]) => name === gain)?.[1] ?? '';
  return [
    {
      key: 'E',
      words: 'Set factor',
      fields: [{ kind: 'text', label: 'Factor', start: gain }],
      run: ([value]) => setGain(diagram, id, must(value)),
    },
    ...(isName
      ? [
          {
            key: 'W',
            words: `Define ${gain}`,
            fields: [{ kind: 'text' as const, label: `${gain} =`, start: meaning, optional: true }],
            run: ([value]: readonly string[]) => bind(diagram, gain, value ?? ''),
          },
        ]
      : []),
  ];
}

function forSignal(diagram: BlockDiagram, id: string): Gesture[] {
  return [renaming(diagram, id), { key: 'Delete', words: 'Remove', fields: [], run: () => removed(diagram, id) }];
}

function forLine(diagram: BlockDiagram, line: Line): Gesture[] {
  const { signal, to, term } = line;
  const user = diagram.nodes.find((node) => node.id === to);
  const place: Place = user ? { signal, node: to, term } : { signal };
  const name = freshName(diagram, 'z');
  return [
    {
      key: 'B',
      words: 'Insert block',
      fields: [{ kind: 'text', label: 'Factor', start: freshName(diagram, 'G') }],
      run: ([gain]) => insertBlock(diagram, place, must(gain)),
    },
    feeding(diagram, place, 'S', 'Insert sum'),
    entering(diagram, place),
    {
      key: 'O',
      words: 'Add output',
      fields: [{ kind: 'text', label: 'Name', start: name }],
      run: ([value]) => addOutput(diagram, signal, must(value)),
    },
    ...(user?.kind === 'sum' && user.terms.length > 1
      ? [
          { key: 'X', words: 'Change sign', fields: [], run: () => changeSign(diagram, to, term) },
          { key: 'Delete', words: 'Remove line', fields: [], run: () => withoutTerm(diagram, to, term) },
        ]
      : []),
    renaming(diagram, signal),
  ];
}

function feeding(diagram: BlockDiagram, to: Place | { readonly sum: string }, key: string, words: string): Gesture {
  const signals = [...diagram.inputs, ...diagram.nodes.map(({ id }) => id)];
  const options = signals.map((id): [string, string] => [id, signalWords(diagram, id)]);
  return {
    key,
    words,
    fields: [{ kind: 'choice', label: 'Signal', options }, sign],
    run: ([signal, with_]) => feed(diagram, must(signal), to, signOf(with_)),
  };
}

function entering(diagram: BlockDiagram, to: Place | { readonly sum: string }): Gesture {
  return {
    key: 'I',
    words: 'Add input',
    fields: [{ kind: 'text', label: 'Name', start: freshName(diagram, 'd') }, sign],
    run: ([name, with_]) => addInput(diagram, must(name), to, signOf(with_)),
  };
}

function renaming(diagram: BlockDiagram, id: string): Gesture {
  return {
    key: 'N',
    words: isNamed(id) ? 'Rename' : 'Name',
    fields: [{ kind: 'text', label: 'Name', start: isNamed(id) ? id : freshName(diagram, 'x') }],
    run: ([name]) => rename(diagram, id, must(name)),
  };
}

function group(diagram: BlockDiagram, ids: readonly string[]): Gesture {
  return {
    key: 'G',
    words: 'Group as one block',
    fields: [{ kind: 'text', label: 'Name', start: freshName(diagram, 'T') }],
    run: ([name]) => grouped(diagram, ids, must(name)),
  };
}

/** The letter, or the letter with the first number that is free. */
function freshName(diagram: BlockDiagram, letter: string): string {
  const taken = JSON.stringify(diagram);
  const isFree = (name: string): boolean =>
    !new RegExp(`(?<![\\p{L}\\p{Nd}_])${name}(?![\\p{L}\\p{Nd}_])`, 'u').test(taken);
  for (let k = 0; ; k++) {
    const name = k === 0 ? letter : `${letter}${k}`;
    if (isFree(name)) return name;
  }
}

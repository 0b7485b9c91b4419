import type { Kind, Part } from '@nailset/core';
import { freeId } from '../shared/freeId';
import { bode } from './bode/author';
import { choice } from './choice/author';
import { curve } from './curve/author';
import { diagram } from './diagram/author';
import { gains } from './gains/author';
import type { About, AuthorKind } from './kind';
import { number } from './number/author';
import { paths } from './paths/author';
import { points } from './points/author';
import { range } from './range/author';
import { reduction } from './reduction/author';
import { states } from './states/author';
import { transferFunction } from './transferFunction/author';
import { trend } from './trend/author';

const kinds: { [K in Kind]: AuthorKind<K> } = {
  transferFunction,
  number,
  gains,
  choice,
  trend,
  curve,
  diagram,
  reduction,
  paths,
  states,
  points,
  bode,
  range,
};

/** The kind of a part, as its instructor makes it. */
export const authorKind = ({ kind }: { readonly kind: Kind }) => kinds[kind] as unknown as AuthorKind<Kind>;

/** Something that can be added to an exercise. */
export interface Offer {
  readonly kind: Kind;
  readonly name: string;
  /** A part of it to start from. `taken` holds the ids that other parts have. */
  readonly make: (taken: readonly string[], about: About) => Part;
}

/** All that can be added, in the order in which the builder offers it. */
export const offers: readonly Offer[] = (Object.keys(kinds) as Kind[]).flatMap((kind) => {
  const made = authorKind({ kind });
  return [made, ...(made.variants ?? [])].map(({ name, id, fresh }) => ({
    ...{ kind, name },
    make: (taken: readonly string[], about: About) => ({ ...fresh(about), id: freeId(id, taken), kind }) as Part,
  }));
});

import type { Bench } from '@nailset/core';
import type { Drawing } from '@nailset/core/diagrams';
import { createContext } from 'react';

/** Drawings that came with the page, by what they are of; others are laid out here. */
export const KnownDrawings = createContext<ReadonlyMap<string, Drawing>>(new Map());

export const knownDrawings = (drawings: Bench['drawings'] = []): ReadonlyMap<string, Drawing> =>
  new Map(drawings.map(({ of, drawing }) => [of, drawing]));

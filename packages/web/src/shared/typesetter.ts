import type Katex from 'katex';

/**
 * What typesets formulas. It is large, so views are shown and can be used before it is there; formulas appear when it
 * is.
 */
class Typesetter {
  now: typeof Katex | undefined;
  readonly there: Promise<void>;

  constructor() {
    this.there = import('katex').then(({ default: katex }) => void (this.now = katex));
    // Without a network formulas stay away; what can be done without them can be done.
    this.there.catch(() => undefined);
  }

  /** Does something once it is there. Gives back how to call it off. */
  onceThere(work: () => void): () => void {
    let wanted = true;
    this.there.then(
      () => wanted && work(),
      () => undefined,
    );
    return () => (wanted = false);
  }
}

export const typesetter = new Typesetter();

import type Katex from 'katex';

/**
 * What typesets formulas. It is large, so views are shown and can be used before it is there; formulas appear when it
 * is.
 */
class Typesetter {
  now: typeof Katex | undefined;
  /** Whether it did not come, as without a network. */
  failed = false;
  readonly there: Promise<void>;

  constructor() {
    this.there = import('katex').then(({ default: katex }) => void (this.now = katex));
    this.there.catch(() => (this.failed = true));
  }

  /** Does something once it is there, or will not come. Gives back how to call it off. */
  onceThere(work: () => void): () => void {
    let wanted = true;
    const settled = () => wanted && work();
    this.there.then(settled, () => setTimeout(settled));
    return () => (wanted = false);
  }
}

export const typesetter = new Typesetter();

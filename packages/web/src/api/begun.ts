/** What a question was answered before the views were there, when by this device in ms since 1970, and to whom. */
export interface Answered {
  readonly response: Response;
  readonly at: number;
  readonly whose: string | undefined;
}

/** A question that the view at this address asks first; its answer is undefined where nobody is signed in. */
export interface Begun {
  readonly at: number;
  readonly answer: Promise<Answered | undefined>;
}

declare global {
  /** Set by what runs before this script has come; none elsewhere. */
  var nailsetBegun: Map<string, Begun> | undefined;
}

/** In ms. A view that has not asked by then asks the server itself. */
const kept = 10_000;

/**
 * The answer to this question of this person that is on its way, once; undefined for none. It is taken, or waited for,
 * from the moment the page began, so that none is left over to be taken for a later one.
 */
export async function takeBegun(path: string, whose: string | undefined): Promise<Answered | undefined> {
  const begun = globalThis.nailsetBegun?.get(path);
  globalThis.nailsetBegun?.delete(path);
  if (!begun || Date.now() - begun.at > kept) return undefined;
  const answered = await begun.answer;
  return answered?.whose === whose ? answered : undefined;
}

/** Once something is changed, what was asked before is old. */
export function forgetBegun(): void {
  globalThis.nailsetBegun = undefined;
}

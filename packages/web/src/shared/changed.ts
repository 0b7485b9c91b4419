/** Some fields of a whole; one that is `undefined` is taken out. */
export type Changed<Whole> = { readonly [Field in keyof Whole]?: Whole[Field] | undefined };

/** The whole with a change. */
export const changed = <Whole extends object>(whole: Whole, change: Changed<Whole>): Whole =>
  Object.fromEntries(Object.entries({ ...whole, ...change }).filter(([, value]) => value !== undefined)) as Whole;

const bare = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** Whether each word that was typed stands in a text, accents and capitals aside. */
export function isFoundIn(text: string, typed: string): boolean {
  const all = bare(text);
  return bare(typed)
    .split(/\s+/)
    .every((word) => all.includes(word));
}

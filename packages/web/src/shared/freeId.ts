/** The name, or the name with the first number that makes it free. */
export function freeId(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  let number = 2;
  while (taken.includes(`${name}-${number}`)) number += 1;
  return `${name}-${number}`;
}

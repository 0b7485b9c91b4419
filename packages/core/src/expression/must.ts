/**
 * A value that is there by how the program is built, such as the first of a list that a schema keeps from being empty.
 * @throws Error where it is not: a fault of ours, never of what someone typed.
 */
export function must<T>(value: T | null | undefined): T {
  if (value === null || value === undefined) throw new Error('Something that is always there is missing.');
  return value;
}

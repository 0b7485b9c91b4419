/**
 * The entries of a typed list: between them stand semicolons, lines, or commas; a comma with a digit on both sides is a
 * decimal one. Blank entries are left out.
 */
export const piecesOf = (text: string): string[] =>
  text
    .split(/[;\n]|(?<!\d),|,(?!\d)/)
    .map((piece) => piece.trim())
    .filter(Boolean);

/** The text with decimal commas as points. */
export const withPoints = (text: string): string => text.replace(/(\d),(?=\d)/g, '$1.');

/** Numbers in a typed text. */
const numbers = /\d+(?:\.\d+)?|\.\d+/g;
/** A number must differ from the one that was meant by this much: less is a matter of rounding. */
const clearly = 0.04;

/** A text of more numbers than these is no answer that one slip of the finger made wrong. */
const mostNumbers = 16;
/** Other texts that are looked at, at most: each is worked out like an answer. */
const mostTexts = 1500;

/**
 * Whether a slip of the finger in one number of a text would make it right: one digit wrong, missing or doubled, two
 * exchanged, or the sign of a term in the middle.
 * @param isRight whether another text is right
 * @param mayBeRight whether it may be, with another number at a position: a quick look first
 */
export function isMistyped(
  text: string,
  isRight: (text: string) => boolean,
  mayBeRight: (position: number, value: number) => boolean,
): boolean {
  const matches = [...text.matchAll(numbers)];
  if (matches.length > mostNumbers) return false;
  let looked = 0;
  for (const match of matches) {
    const [typed] = match;
    const at = match.index;
    // What follows a power or a letter is an exponent or an index.
    if (/[\^\p{L}_]$/u.test(text.slice(0, at).trimEnd())) continue;
    for (const meant of meantBy(typed)) {
      if (Math.abs(Number(meant) - Number(typed)) <= clearly * Math.abs(Number(typed))) continue;
      if (!mayBeRight(at, Number(meant))) continue;
      if (++looked > mostTexts) return false;
      if (isRight(text.slice(0, at) + meant + text.slice(at + typed.length))) return true;
    }
  }
  return otherSigns(text).some(isRight);
}

/** What may have been meant by a number: for one of a single digit only what lies beside it on the keys. */
function meantBy(typed: string): Set<string> {
  const meant = new Set<string>();
  const digits = typed.replace('.', '').length;
  for (let k = 0; k < typed.length; k++) {
    if (typed[k] === '.') continue;
    const [before, after] = [typed.slice(0, k), typed.slice(k + 1)];
    for (let digit = 0; digit <= 9; digit++) {
      const apart = Math.abs(digit - Number(typed[k]));
      if (apart === 0 || (digits === 1 && apart > 1)) continue;
      meant.add(`${before}${digit}${after}`);
    }
    // Doubled, or one too many.
    if (digits > 1 && (typed[k] === typed[k + 1] || digits > 2)) meant.add(before + after);
    if (typed[k + 1] !== undefined && typed[k + 1] !== '.')
      meant.add(`${before}${typed[k + 1]}${typed[k]}${typed.slice(k + 2)}`);
  }
  // One missing.
  if (digits > 1)
    for (let k = 0; k <= typed.length; k++)
      for (let digit = 0; digit <= 9; digit++) meant.add(`${typed.slice(0, k)}${digit}${typed.slice(k)}`);
  meant.delete(typed);
  return new Set([...meant].filter((text) => /^(?!0\d)(?:\d+(?:\.\d+)?|\.\d+)$/.test(text)));
}

/** The text with the sign in front of one term in s turned round; a constant term may be that of the feedback. */
function otherSigns(text: string): string[] {
  return Array.from(text.matchAll(/([+−-])(?=\s*(?:[\d.]+\s*)?(?:\*\s*)?s(?!\^))/g), ({ index, 1: sign }) => {
    return `${text.slice(0, index)}${sign === '+' ? '-' : '+'}${text.slice(index + 1)}`;
  }).filter((other) => other.lastIndexOf('/') >= 0);
}

/**
 * Copies a text; where the browser does not let the page, as without HTTPS, shows it to be copied by hand.
 * @returns whether it was copied
 */
export async function copyText(
  text: string,
  byHand: () => void = () => void window.prompt('Copy this:', text),
): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    byHand();
    return false;
  }
}

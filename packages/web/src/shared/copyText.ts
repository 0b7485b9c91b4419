/**
 * Copies a text, also where the page came without HTTPS and has no clipboard; what the browser does not let it copy is
 * shown to be copied by hand.
 * @returns whether it was copied
 */
export async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    if (copySelected(text)) return true;
    window.prompt('Copy this:', text);
    return false;
  }
}

/** The older way: a field with the text, beside what has the focus, so that a dialog does not take it back. */
function copySelected(text: string): boolean {
  const before = document.activeElement;
  const field = document.createElement('textarea');
  field.className = 'fixed size-px opacity-0';
  field.value = text;
  (before?.parentElement ?? document.body).append(field);
  try {
    field.focus();
    field.select();
    return document.execCommand('copy');
  } catch {
    return false;
  } finally {
    field.remove();
    if (before instanceof HTMLElement) before.focus();
  }
}

/** A word that is on or off. */
export function Toggle({ on, words, onChange }: { on: boolean; words: string; onChange: (on: boolean) => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`link ${on ? 'font-medium text-ink decoration-ink' : ''}`}
      onClick={() => onChange(!on)}
    >
      {words}
    </button>
  );
}

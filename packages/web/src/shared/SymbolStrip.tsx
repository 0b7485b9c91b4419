const names: Readonly<Record<string, string>> = {
  ...{ '√': 'square root', '^': 'power', π: 'pi', ζ: 'zeta', ωₙ: 'omega n', τ: 'tau', '·': 'times', '/': 'over' },
  ...{ '−': 'minus', '±': 'plus or minus', '∞': 'infinity', '≤': 'at most', '<': 'less than', '>': 'more than' },
  ...{ '(': 'opening bracket', ')': 'closing bracket', j: 'imaginary unit j' },
};

/** Puts a symbol into the field that has the focus, as if it were typed there. */
function put(symbol: string): void {
  const field = document.activeElement;
  if (!(field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement)) return;
  const end = field.value.length;
  field.setRangeText(symbol, field.selectionStart ?? end, field.selectionEnd ?? end, 'end');
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Symbols under the field that has the focus in the same group; its place is kept, so that nothing moves. */
export function SymbolStrip({ symbols }: { symbols: readonly string[] }) {
  if (symbols.length === 0) return null;
  return (
    <p
      className="invisible mt-1 flex flex-wrap gap-1 group-has-[:is(input,textarea):focus]/typed:visible print:hidden"
      aria-label="Symbols"
      role="group"
    >
      {symbols.map((symbol) => (
        <button
          key={symbol}
          type="button"
          // Not a stop of the keyboard, which types these anyway; and the field keeps the focus.
          tabIndex={-1}
          aria-label={names[symbol] ?? symbol}
          className="h-8 min-w-8 rounded-[3px] border border-rule bg-sheet px-1.5 font-mono text-[14px] hover:border-petrol"
          onPointerDown={(event) => event.preventDefault()}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => put(symbol)}
        >
          {symbol}
        </button>
      ))}
    </p>
  );
}

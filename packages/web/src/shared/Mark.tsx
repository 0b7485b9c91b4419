/** A nail: the sign of the product. */
export function Mark() {
  return (
    <svg viewBox="0 0 12 24" className="h-6 w-3" aria-hidden="true">
      <circle cx="6" cy="6" r="4.6" className="fill-petrol" />
      <path d="M6 10v13" className="stroke-petrol" strokeWidth="2" strokeLinecap="round" />
    </svg>
  );
}

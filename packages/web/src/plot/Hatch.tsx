/** Lines across what is not wanted: referred to as `url(#id)`. */
export function Hatch({ id, className }: { id: string; className: string }) {
  return (
    <pattern id={id} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2="7" className={className} strokeWidth="1" />
    </pattern>
  );
}

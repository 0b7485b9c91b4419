/** For a thumb. */
const large = 'pointer-coarse:min-h-10 pointer-coarse:min-w-10';

/** Farther away and nearer. */
export function ZoomButtons({ onZoom }: { onZoom: (factor: number) => void }) {
  return (
    <>
      <button type="button" className={`link ${large}`} aria-label="Zoom out" onClick={() => onZoom(1.25)}>
        −
      </button>
      <button type="button" className={`link ${large}`} aria-label="Zoom in" onClick={() => onZoom(0.8)}>
        +
      </button>
    </>
  );
}

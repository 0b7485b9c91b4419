/** Farther away and nearer. */
export function ZoomButtons({ onZoom }: { onZoom: (factor: number) => void }) {
  return (
    <>
      <button type="button" className="link" aria-label="Zoom out" onClick={() => onZoom(1.25)}>
        −
      </button>
      <button type="button" className="link" aria-label="Zoom in" onClick={() => onZoom(0.8)}>
        +
      </button>
    </>
  );
}

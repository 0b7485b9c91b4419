interface Pointer {
  readonly clientX: number;
  readonly clientY: number;
}

/** Where on a picture a pointer is, in its own pixels: a page that is magnified has larger ones on the screen. */
export function placeOn(picture: SVGSVGElement, { clientX, clientY }: Pointer): { px: number; py: number } {
  const { left, top, width } = picture.getBoundingClientRect();
  const drawnWidth = Number(picture.getAttribute('width'));
  const zoom = width > 0 && drawnWidth > 0 ? width / drawnWidth : 1;
  return { px: (clientX - left) / zoom, py: (clientY - top) / zoom };
}

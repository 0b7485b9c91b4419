import type { Drawing } from '@nailset/core/diagrams';
import { download, inLightColours, pngOf } from '../shared/files';

/** Takes a drawing away as a file: SVG, or PNG at twice its size. */
export async function savePicture(
  picture: SVGSVGElement,
  { width, height }: Pick<Drawing, 'width' | 'height'>,
  title: string,
  kind: 'svg' | 'png',
): Promise<void> {
  const copy = picture.cloneNode(true) as SVGSVGElement;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('viewBox', `0 0 ${width} ${height}`);
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  for (const part of copy.querySelectorAll<SVGGElement>('g')) {
    const [, x, y] = /translate\(([-\d.]+)px, ([-\d.]+)px\)/.exec(part.style.transform) ?? [];
    if (x !== undefined) part.setAttribute('transform', `translate(${x} ${y})`);
    for (const name of ['style', 'class', 'role', 'tabindex', 'aria-label', 'aria-pressed']) part.removeAttribute(name);
  }
  // Colours are the page's own; a file has none of them.
  const text = inLightColours(() => {
    const colours = getComputedStyle(document.documentElement);
    return new XMLSerializer()
      .serializeToString(copy)
      .replace(/var\((--[a-z-]+)\)/g, (_whole, name: string) => colours.getPropertyValue(name).trim());
  });
  if (kind === 'svg') return download(new Blob([text], { type: 'image/svg+xml' }), `${title}.svg`);
  const png = await pngOf(text, width, height);
  if (png) download(png, `${title}.png`);
}

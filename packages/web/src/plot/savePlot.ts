import { download, inLightColours, pngOf } from '../shared/files';

export { saveTable } from '../shared/saveTable';

const kept = [
  ...['fill', 'fill-opacity', 'stroke', 'stroke-width', 'stroke-opacity', 'stroke-dasharray', 'stroke-linejoin'],
  ...['font-family', 'font-size', 'font-weight', 'text-anchor', 'opacity', 'paint-order'],
];

/** Takes a plot away as it stands on the screen, its looks written into it: SVG, or PNG at twice its size. */
export async function savePlot(picture: SVGSVGElement, title: string, kind: 'svg' | 'png'): Promise<void> {
  const copy = picture.cloneNode(true) as SVGSVGElement;
  const originals = [picture, ...picture.querySelectorAll('*')];
  inLightColours(() =>
    [copy, ...copy.querySelectorAll('*')].forEach((element, k) => {
      const style = getComputedStyle(originals[k]!);
      for (const name of kept) element.setAttribute(name, style.getPropertyValue(name));
      for (const name of ['class', 'role', 'tabindex', 'aria-label', 'style']) element.removeAttribute(name);
    }),
  );
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  const text = new XMLSerializer().serializeToString(copy);
  if (kind === 'svg') return download(new Blob([text], { type: 'image/svg+xml' }), `${title}.svg`);
  const png = await pngOf(text, picture.clientWidth, picture.clientHeight);
  if (png) download(png, `${title}.png`);
}

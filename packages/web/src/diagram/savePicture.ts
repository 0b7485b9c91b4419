import type { Drawing } from './layout';

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
  const text = new XMLSerializer().serializeToString(copy);
  if (kind === 'svg') return download(new Blob([text], { type: 'image/svg+xml' }), `${title}.svg`);
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [2 * width, 2 * height];
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#fefdf9';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  canvas.toBlob((blob) => blob && download(blob, `${title}.png`));
}

function download(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

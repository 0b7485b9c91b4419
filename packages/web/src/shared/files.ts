import { must } from '@nailset/core';

/** Hands a file to the browser to be saved. */
export function download(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  // Some browsers begin to read it only after this.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** Works with the light colours, whichever the page has: what is taken away is looked at on paper. */
export function inLightColours<Of>(work: () => Of): Of {
  const root = document.documentElement;
  root.dataset['light'] = '';
  try {
    return work();
  } finally {
    delete root.dataset['light'];
  }
}

/** An SVG text as a PNG on paper, twice its size in pixels; null where the browser cannot draw it. */
export async function pngOf(svg: string, width: number, height: number): Promise<Blob | null> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [2 * width, 2 * height];
  const context = must(canvas.getContext('2d'));
  context.fillStyle = '#fefdf9';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve) => canvas.toBlob(resolve));
}

import { type Sheet, sheetFrom } from '@nailset/core';

/** A sheet in the fragment of an address: its JSON, compressed, in letters that addresses take. */

const mark = '#sheet=';
/** In bytes, unpacked: more than any sheet takes. */
const most = 400_000;

export const linkOf = async (sheet: Sheet): Promise<string> => `${location.origin}/open${await hashOf(sheet)}`;

export async function hashOf(sheet: Sheet): Promise<string> {
  const packed = await through(new CompressionStream('deflate-raw'), new TextEncoder().encode(JSON.stringify(sheet)));
  const text = btoa(String.fromCharCode(...packed))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replaceAll('=', '');
  return `${mark}${text}`;
}

/** The sheet of the address that a page was opened with. @throws Problem, or Error for one that was cut short. */
export async function sheetOfAddress(hash: string): Promise<Sheet | undefined> {
  if (!hash.startsWith(mark)) return undefined;
  const text = atob(hash.slice(mark.length).replaceAll('-', '+').replaceAll('_', '/'));
  const packed = Uint8Array.from(text, (letter) => letter.charCodeAt(0));
  const bytes = await through(new DecompressionStream('deflate-raw'), packed);
  return sheetFrom(JSON.parse(new TextDecoder().decode(bytes)));
}

async function through(
  stream: CompressionStream | DecompressionStream,
  bytes: Uint8Array<ArrayBuffer>,
): Promise<Uint8Array> {
  const reader = new Blob([bytes]).stream().pipeThrough(stream).getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.length;
    if (size > most) throw new Error('The link holds more than a sheet.');
    parts.push(value);
  }
  const all = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

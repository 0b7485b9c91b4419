import { readFileSync } from 'node:fs';
import path from 'node:path';
import serveFiles from '@fastify/static';
import { must } from '@nailset/core';
import { Refusal } from '../errors.js';
import type { App } from './route.js';

const built = path.resolve(import.meta.dirname, '../../../web/dist');

/** The built pages: files by their names, the start page for every other address. */
export async function serveInterface(app: App): Promise<void> {
  const start = readFileSync(path.join(built, 'index.html'), 'utf8');
  const pages = (
    JSON.parse(readFileSync(path.join(built, 'pages.json'), 'utf8')) as { address: string; files: string[] }[]
  ).map(({ address, files }) => ({ address: new RegExp(address), start: start.replace('</head>', linksTo(files)) }));
  await app.register(serveFiles, {
    root: path.join(built, 'assets'),
    prefix: '/assets/',
    immutable: true,
    maxAge: '1y',
    // Made by the build, beside the files themselves.
    preCompressed: true,
  });
  const notices = readFileSync(path.join(built, 'notices.txt'));
  app.get('/notices.txt', { config: { access: 'anyone' }, schema: { hide: true } }, (_, reply) =>
    reply.type('text/plain; charset=utf-8').send(notices),
  );
  app.setNotFoundHandler((request, reply) => {
    const address = pathOf(request.url);
    if (request.method !== 'GET' || /^\/(api|assets)\//.test(address)) throw new Refusal('notFound');
    const page = pages.find((each) => each.address.test(address))?.start ?? start;
    return reply
      .type('text/html; charset=utf-8')
      .header('cache-control', 'no-cache')
      .send(page.replaceAll('%NONCE%', reply.cspNonce.style));
  });
}

/** The end of a start page's head that has the files of a view fetched at once, and not found one after the other. */
function linksTo(files: readonly string[]): string {
  const links = files.map((name) =>
    name.endsWith('.css')
      ? `<link rel="preload" as="style" crossorigin href="/${name}">`
      : `<link rel="modulepreload" crossorigin href="/${name}">`,
  );
  return `${links.join('\n')}\n</head>`;
}

/** An address as it is meant, without what it asks; as it stands where it is no address. */
function pathOf(url: string): string {
  try {
    return decodeURIComponent(must(url.split('?', 1)[0]));
  } catch {
    return url;
  }
}

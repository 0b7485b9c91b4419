import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import swagger from '@fastify/swagger';
import swaggerUi from '@fastify/swagger-ui';
import { sessionCookie } from '../access.js';
import type { App } from './route.js';

/** Describes every route that is added after this in OpenAPI, with a page to read it and to try it. */
export async function describeApi(app: App): Promise<void> {
  await app.register(swagger, {
    openapi: {
      info: {
        title: 'Nailset',
        version: '1',
        description: 'Everything that the interface of Nailset does, over HTTP.',
      },
      components: { securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: sessionCookie } } },
      security: [{ session: [] }],
    },
  });
  // By its name in the packages: the page's own code may run from elsewhere.
  const files = path.dirname(fileURLToPath(import.meta.resolve('@fastify/swagger-ui/static/index.html')));
  const logo = { type: 'image/svg+xml', content: await readFile(path.join(files, 'logo.svg')) };
  await app.register(swaggerUi, { routePrefix: '/reference', baseDir: files, logo });
}

import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type Request, type Response, Router } from 'express';
import helmet from 'helmet';
import { CONTRACTS, openApiDocument } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import { assertPlainJson } from './routes/body';
import { benchRoutes } from './routes/bench';
import { copyRoutes } from './routes/copies';
import { deskRoutes } from './routes/desk';
import { findRoutes } from './routes/find';
import { descriptionRoutes } from './routes/descriptions';
import { houseRoutes } from './routes/house';
import { draftRoutes } from './routes/drafts';
import { errorHandler, on } from './routes/handle';
import { arrivalRoutes, shelfRoutes } from './routes/arrivals';
import { masterRoutes } from './routes/masters';
import { partRoutes } from './routes/parts';
import { pictureRoutes } from './routes/pictures';
import { placeRoutes } from './routes/places';
import { revisionRoutes } from './routes/revisions';
import { stateRoutes } from './routes/states';
import { templateRoutes } from './routes/templates';
import { streamRoutes } from './routes/streams';
import { Uploads } from './routes/upload';
import type { Workshop } from './workshop';

const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
/** Largest bodies: of steps, and of everything else. */
const BODY_LIMIT = '32mb';
const SMALL_BODY_LIMIT = '256kb';
/** Milliseconds that a body may take to come in. */
const BODY_TIME = 15_000;
/** What takes a file as its body: it goes to disk as it comes, whatever it says that it is. */
const UPLOADS = new RegExp(
  `^(${(['bringIn', 'identify', 'addPicture', 'look', 'lookNewer', 'matchFile', 'lookAtJob', 'attach'] as const)
    .map((id) => CONTRACTS[id].path.replace(':id', '[^/]+'))
    .join('|')})$`,
);

/** The routes, a file a resource. */
const ROUTES: readonly ((router: Router, workshop: Workshop, uploads: Uploads) => void)[] = [
  streamRoutes,
  deskRoutes,
  findRoutes,
  houseRoutes,
  descriptionRoutes,
  arrivalRoutes,
  shelfRoutes,
  masterRoutes,
  templateRoutes,
  revisionRoutes,
  pictureRoutes,
  partRoutes,
  placeRoutes,
  stateRoutes,
  draftRoutes,
  copyRoutes,
  benchRoutes,
];

/** The application: API, server-sent events, and the built web application. */
export function createApp(workshop: Workshop, web: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.use((_request, response, next) => {
    response.locals['nonce'] = randomBytes(16).toString('base64');
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // The component library and the framework write style elements; theirs carry this answer's nonce.
          styleSrc: ["'self'", (_request, response) => `'nonce-${(response as Response).locals['nonce'] as string}'`],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          workerSrc: ["'self'", 'blob:'],
          connectSrc: ["'self'"],
          objectSrc: ["'none'"],
          baseUri: ["'self'"],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use((request, _response, next) => {
    // Another site's page must not reach the workshop through a visitor's browser.
    const host = request.headers.host ?? '';
    const { origin } = request.headers;
    // Where a browser says from where it asks, another site may at most lead to a page (Fetch Metadata, 2.3).
    const from = request.headers['sec-fetch-site'] ?? 'none';
    const isPage = request.method === 'GET' && !request.path.startsWith('/api/');
    if (
      !LOCAL.test(host) ||
      (origin !== undefined && origin !== `http://${host}`) ||
      (from !== 'none' && from !== 'same-origin' && !isPage)
    )
      return next(new Failure('forbidden', 'This server answers only to its own pages on this machine.'));
    if (/%00|\0/.test(request.url)) return next(new Failure('request-invalid', 'The address holds a NUL character.'));
    next();
  });
  app.use(
    compression({
      filter: (request, response) => request.path !== '/api/events' && compression.filter(request, response),
    }),
  );

  const router = Router();
  router.use('/api', (_request, response, next) => {
    // All of it is someone's own: no cache between here and there keeps any.
    response.set('Cache-Control', 'no-store');
    next();
  });
  router.use(cutOffTrickle);
  // Steps may be many thousand patches: the thread that keeps them reads them, this one only takes them off the line.
  router.use(/^\/api\/masters\/[^/]+\/draft(\/steps)?$/, express.raw({ type: 'application/json', limit: BODY_LIMIT }));
  const json = express.json({ limit: SMALL_BODY_LIMIT, verify: (_request, _response, body) => assertPlainJson(body) });
  router.use((request, response, next) => (UPLOADS.test(request.path) ? next() : json(request, response, next)));
  on(router, 'health', async () => {
    await workshop.database.rows('select 1');
    return { status: 'ok' as const };
  });
  router.get('/api/openapi.json', (_request, response) => void response.json(openApiDocument()));
  const uploads = new Uploads(workshop.settings.uploads);
  for (const routes of ROUTES) routes(router, workshop, uploads);
  router.use('/api', (_request, _response, next) =>
    next(new Failure('not-found', 'There is no such route. See /api/openapi.json.')),
  );
  app.use(router);

  if (web && existsSync(join(web, 'index.html'))) {
    app.use(express.static(web, { index: false, maxAge: '1h' }));
    const page = readFileSync(join(web, 'index.html'), 'utf8');
    app.get(/^\/(?!api\/)[^.]*$/, (_request, response) => {
      const nonce = response.locals['nonce'] as string;
      response.type('text/html').set('Cache-Control', 'no-store').send(page.replaceAll('NONCE-OF-THIS-ANSWER', nonce));
    });
  }
  app.use((_request, _response, next) => next(new Failure('not-found', 'There is no such page here.')));
  app.use(errorHandler(workshop.log));
  return app;
}

/** A body that has not come in whole by then is cut off. Files have their own, longer time. */
function cutOffTrickle(request: Request, response: Response, next: (error?: unknown) => void): void {
  if (!UPLOADS.test(request.path) && !request.complete) {
    const timer = setTimeout(() => {
      if (request.complete || response.headersSent) return;
      response.once('finish', () => request.destroy());
      next(new Failure('too-slow', 'The request came too slowly and was cut off. Nothing was kept; send it again.'));
    }, BODY_TIME);
    request.once('end', () => clearTimeout(timer)).once('close', () => clearTimeout(timer));
  }
  next();
}

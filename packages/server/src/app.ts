import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, Router } from 'express';
import helmet from 'helmet';
import { openApiDocument } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import { copyRoutes } from './routes/copies';
import { errorHandler, on } from './routes/handle';
import { masterRoutes } from './routes/masters';
import type { Workshop } from './workshop';

const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/** The application: API, server-sent events, and the built web application. */
export function createApp(workshop: Workshop, web: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // The component library writes its theme into style elements.
          styleSrc: ["'self'", "'unsafe-inline'"],
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
    const origin = request.headers.origin;
    if (!LOCAL.test(host) || (origin !== undefined && origin !== `http://${host}`))
      return next(new Failure('forbidden', 'This server answers only to its own pages on this machine.'));
    next();
  });
  app.use(
    compression({
      filter: (request, response) => request.path !== '/api/events' && compression.filter(request, response),
    }),
  );

  const router = Router();
  router.use(express.json({ limit: '32mb' }));
  on(router, 'health', async () => {
    await workshop.database.rows('select 1');
    return { status: 'ok' as const };
  });
  router.get('/api/openapi.json', (_request, response) => void response.json(openApiDocument()));
  router.get('/api/events', (request, response) => {
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache', 'X-Accel-Buffering': 'no' });
    response.flushHeaders();
    response.write('retry: 1000\n\n');
    const stop = workshop.events.listen((event) => void response.write(`data: ${JSON.stringify(event)}\n\n`));
    const beat = setInterval(() => response.write(': here\n\n'), 20_000);
    request.on('close', () => {
      stop();
      clearInterval(beat);
    });
  });
  masterRoutes(router, workshop);
  copyRoutes(router, workshop);
  router.use('/api', (_request, _response, next) =>
    next(new Failure('not-found', 'There is no such route. See /api/openapi.json.')),
  );
  app.use(router);

  if (web && existsSync(web)) {
    app.use(express.static(web, { index: false, maxAge: '1h' }));
    app.get(
      /^\/(?!api\/)[^.]*$/,
      (_request, response) => void response.sendFile(join(web, 'index.html'), { headers: { 'Cache-Control': 'no-cache' } }),
    );
  }
  app.use(errorHandler(workshop.log));
  return app;
}

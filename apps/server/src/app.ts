import { ValidationPipe, type LogLevel } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import cookieParser from 'cookie-parser';
import express, { type NextFunction, type Request, type Response } from 'express';
import staticGzip from 'express-static-gzip';
import helmet from 'helmet';
import { join } from 'node:path';
import { AppModule } from './app.module';
import { MOST_BYTES } from './dav/properties';
import { CONFIG, type Config } from './base/config';
import { fromValidation } from './base/errors';
import { onlyOwnHosts } from './base/hosts';
import { refuseDeepJson } from './base/json-depth';

const BODY_LIMIT = '1mb';

/** The application, ready to listen; used by `main` and by the tests alike. */
export async function createApp(logLevels: LogLevel[] = ['warn', 'error', 'fatal']): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule, { logger: logLevels, bodyParser: false });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          styleSrc: ["'self'", "'unsafe-inline'"],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          frameSrc: ["'self'"],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
      referrerPolicy: { policy: 'no-referrer' },
    }),
  );
  const { hosts, origin } = app.get<Config>(CONFIG);
  // Behind something that does TLS the address of whoever asks stands in a header, and is believed from this machine only.
  if (origin) app.set('trust proxy', 'loopback');
  app.use(onlyOwnHosts(hosts));
  app.useBodyParser('json', { limit: BODY_LIMIT, verify: refuseDeepJson });
  app.use('/dav', express.text({ type: () => true, limit: MOST_BYTES }));
  app.use(cookieParser());
  app.use('/api', (_request: Request, response: Response, next: NextFunction) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  app.useGlobalPipes(
    new ValidationPipe({
      transform: true,
      whitelist: true,
      forbidNonWhitelisted: true,
      exceptionFactory: (errors) => fromValidation(errors),
    }),
  );
  describe(app);
  serveWeb(app);
  // Longer than those who ask keep a connection for themselves: none is closed at the moment it is used again.
  app.getHttpServer().keepAliveTimeout = 65_000;
  return app;
}

/** Where the build leaves the description of the API, seen from the source and from the bundle alike. */
const DESCRIPTION = join(__dirname, '../dist');

/** The description of the API, for programs and as a page for people. */
function describe(app: NestExpressApplication): void {
  const http: express.Express = app.getHttpAdapter().getInstance();
  const send = (name: string) => (_request: Request, response: Response) => response.sendFile(join(DESCRIPTION, name));
  http.get('/api/openapi.json', send('openapi.json'));
  http.get('/api', send('api.html'));
}

/** The built web application; every address that is none of the API's is one of its places. */
function serveWeb(app: NestExpressApplication): void {
  const { webRoot } = app.get<Config>(CONFIG);
  if (!webRoot) return;
  // Text was compressed when it was built; what a browser takes is sent as it lies there.
  const compressed = { enableBrotli: true, orderPreference: ['br', 'gz'], index: false };
  app.use(
    '/assets',
    staticGzip(join(webRoot, 'assets'), { ...compressed, serveStatic: { immutable: true, maxAge: '1y', fallthrough: false } }),
  );
  app.use(staticGzip(webRoot, { ...compressed, serveStatic: { maxAge: 0, index: false } }));
  // The pages for others are an application of their own, which knows nothing of the other one.
  const forOthers = join(webRoot, '../../meet/dist');
  app.use(
    '/for-others',
    staticGzip(forOthers, { ...compressed, serveStatic: { immutable: true, maxAge: '1y', fallthrough: false } }),
  );
  app.use(['/meet', '/offer'], (request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET') return next();
    response.setHeader('Cache-Control', 'no-cache');
    response.setHeader('X-Robots-Tag', 'noindex');
    response.sendFile(join(forOthers, 'index.html'));
  });
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || /^\/(?:api|calendars|dav|\.well-known)(?:\/|$)/.test(request.path)) return next();
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(join(webRoot, 'index.html'));
  });
}

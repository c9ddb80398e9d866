/** The drop folder over HTTP, for the application and for whoever sends files to it. */
import { closeSync, createReadStream, fstatSync, fsyncSync, openSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream';
import express, { type NextFunction, type Request, type Response, Router } from 'express';
import { z } from 'zod';
import { grouped, Job } from '../../core/index.ts';
import { BadName, MAX_BYTES } from './drop-folder.ts';
import { Standing } from './standing-jobs.ts';
import type { Watcher } from './watcher.ts';

const MAX_JOB_BYTES = '20mb';
const MAX_UPLOADS = 16;
/** An upload that has gone on for so long may have to make room for another, the slowest first. */
const PATIENT_MS = 10_000;
const MAX_SHOWN = 200;

/** More bytes came than may be. */
class TooMany extends Error {}

/** Others wait, and this upload is slow. */
class TooSlow extends Error {}

interface Upload {
  began: number;
  bytes: number;
  request: Request;
}

/**
 * @param mostBytes of one uploaded file
 * @param patientMs after which a slow upload makes room for another when all places are taken
 */
export function folderApi(watcher: Watcher, mostBytes = MAX_BYTES, patientMs = PATIENT_MS): Router {
  const api = Router();
  const uploads = new Set<Upload>();
  let count = 0;
  const { folder, jobs } = watcher;

  /** Writes what is sent to a place aside, and has it taken from there when it is whole. */
  const receive = async (request: Request, take: (path: string) => unknown): Promise<unknown> => {
    if (Number(request.headers['content-length'] ?? 0) > mostBytes) throw new TooMany();
    const aside = join(folder.own, `upload-${process.pid}-${++count}`);
    const file = openSync(aside, 'wx');
    const upload: Upload = { began: Date.now(), bytes: 0, request };
    uploads.add(upload);
    try {
      try {
        for await (const piece of request as AsyncIterable<Buffer>) {
          upload.bytes += piece.length;
          if (upload.bytes > mostBytes) throw new TooMany();
          for (let at = 0; at < piece.length; ) at += writeSync(file, piece, at);
        }
        fsyncSync(file);
      } finally {
        closeSync(file);
      }
      return take(aside);
    } finally {
      uploads.delete(upload);
      rmSync(aside, { force: true });
    }
  };
  const roomToUpload = (_: Request, response: Response, next: NextFunction) => {
    if (uploads.size < MAX_UPLOADS) return next();
    const speed = ({ bytes, began }: Upload) => bytes / (Date.now() - began);
    const [slowest] = [...uploads]
      .filter((one) => Date.now() - one.began > patientMs)
      .sort((a, b) => speed(a) - speed(b));
    if (slowest !== undefined) {
      uploads.delete(slowest);
      slowest.request.destroy(new TooSlow('It was too slow while others waited.'));
      return next();
    }
    response.status(503).set('Retry-After', '2').json({ error: 'Too many files are being sent at once. Try again.' });
  };

  api.get('/folder', (_, response) => {
    const arrivals = watcher.arrivals();
    response.json({
      path: folder.root,
      runs: watcher.holds,
      count: arrivals.length,
      arrivals: arrivals.slice(0, MAX_SHOWN),
      recent: watcher.latest(MAX_SHOWN),
      jobs: jobs.list().map(({ job, source, pattern }) => ({ id: job.id, name: job.name, source, pattern })),
    });
  });

  api.get('/arrivals/:name', (request, response, next) => {
    const file = folder.open(request.params.name);
    response.set({
      'Content-Type': 'application/octet-stream',
      'Content-Disposition': 'attachment',
      'Content-Length': String(fstatSync(file).size),
      'Cache-Control': 'no-store',
    });
    // Ends the stream, and the file with it, also where whoever asked has gone.
    pipeline(createReadStream('', { fd: file }), response, (error) => {
      if (error !== null && error !== undefined && !response.headersSent) next(error);
    });
  });

  api.put('/arrivals/:name', roomToUpload, async (request, response) => {
    const name = await receive(request, (path) => folder.takeIn(path, String(request.params['name'])));
    response.status(201).json({ name });
  });

  api.post('/arrivals/:name/taken', express.json(), (request, response) => {
    const { job } = z.object({ job: z.string().max(200) }).parse(request.body);
    watcher.taken(String(request.params['name']), job);
    response.json({});
  });

  api.put('/jobs/:id', express.json({ limit: MAX_JOB_BYTES }), (request, response) => {
    const { job, ...standing } = Standing.extend({ job: Job }).parse(request.body);
    if (job.id !== request.params['id']) throw new BadName('The job has another id than the address.');
    jobs.set(job, standing);
    response.json({});
  });

  api.put('/jobs/:id/sources/:source', roomToUpload, async (request, response) => {
    const { id, source } = request.params as { id: string; source: string };
    await receive(request, (path) => jobs.takeSource(id, source, path));
    response.json({});
  });

  api.delete('/jobs/:id', (request, response) => {
    jobs.remove(request.params.id);
    response.json({});
  });

  api.use((_, response) => {
    response.status(404).json({ error: 'There is nothing at this address.' });
  });

  api.use((error: Error, request: Request, response: Response, next: NextFunction) => {
    // Whoever sent it is gone.
    if ((error as { code?: string }).code === 'ECONNRESET' || response.destroyed) return void response.destroy();
    if (response.headersSent) return next(error);
    const status = statusOf(error);
    if (error instanceof TooMany) {
      // The rest of an endless body is not waited for.
      response.set('Connection', 'close').once('finish', () => request.destroy());
    }
    response.status(status).json({
      error:
        error instanceof TooMany
          ? `The file is larger than ${grouped(Math.round(mostBytes / 1024 / 1024))} MiB.`
          : error instanceof z.ZodError
            ? `What was sent is not as expected: ${z.prettifyError(error)}`
            : status === 500
              ? 'The server could not do this.'
              : error.message,
    });
    if (status === 500) process.stderr.write(`Rimefield: ${error.stack ?? error.message}\n`);
  });
  return api;
}

function statusOf(error: Error): number {
  if (error instanceof TooMany) return 413;
  if (error instanceof TooSlow) return 408;
  if (error instanceof BadName || error instanceof z.ZodError) return 400;
  const { status, code } = error as { status?: number; code?: string };
  if (code === 'ENOENT') return 404;
  return status !== undefined && status >= 400 && status < 500 ? status : 500;
}

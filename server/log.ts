import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { pino, type Logger } from 'pino';
import type { Config } from './config';

/** Never written down, wherever they stand in what is logged. */
const SECRETS = [
  'req.headers.authorization',
  'req.headers.cookie',
  '*.password',
  '*.token',
  'res.headers["set-cookie"]',
];

/** A query may hold what people typed; the path says enough of a request. */
const requestLine = (request: { method: string; url: string; id?: unknown }): object => ({
  id: request.id,
  method: request.method,
  path: request.url.split('?')[0],
});

/**
 * The log of one process: JSON lines to a file that rotates at 10 MB, of which seven are kept, and to stdout where that
 * is asked for (`LOG=stdout`). Errors of a process without a log folder go to stderr.
 */
export async function openLog(name: string, { logFolder, logToStdout }: Config): Promise<Logger> {
  const options = {
    name,
    level: 'info',
    redact: { paths: SECRETS, censor: '…' },
    serializers: { req: requestLine, err: pino.stdSerializers.err },
    timestamp: pino.stdTimeFunctions.isoTime,
  };
  const streams = [];
  if (logToStdout) streams.push({ stream: process.stdout });
  if (logFolder) {
    mkdirSync(logFolder, { recursive: true });
    const { default: roll } = await import('pino-roll');
    streams.push({
      stream: await roll({
        file: join(logFolder, name),
        size: '10m',
        limit: { count: 7 },
        extension: '.log',
        mkdir: true,
      }),
    });
  }
  return streams.length
    ? pino(options, pino.multistream(streams))
    : pino({ ...options, level: 'error' }, process.stderr);
}

import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { databaseUrl, OURS, PASSWORD } from './harness';
import { freePort } from './port';

export interface Running {
  url: string;
  mailPort: number;
  child: ChildProcess;
  kill(signal: 'SIGKILL' | 'SIGTERM'): Promise<void>;
}

/** The built server as a process of its own. */
export async function startServer(): Promise<Running> {
  const [port, mailPort] = [await freePort(), await freePort()];
  const child = spawn(process.execPath, [join(__dirname, '../dist/main.js')], {
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl(),
      PORT: String(port),
      MAIL_PORT: String(mailPort),
      EMPORIKON_OURS: OURS.join(','),
      // As `npm start` sets it.
      MALLOC_ARENA_MAX: '2',
      MALLOC_MMAP_THRESHOLD_: '65536',
      MALLOC_TRIM_THRESHOLD_: '65536',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout?.on('data', (chunk: Buffer) =>
      String(chunk).includes('listening') ? resolve() : undefined,
    );
    child.once('exit', (code) => reject(new Error(`the server ended (${code})`)));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    mailPort,
    child,
    kill: (signal) =>
      new Promise((done) => {
        if (child.exitCode !== null || child.signalCode) return done();
        child.once('exit', () => done());
        child.kill(signal);
      }),
  };
}

/** Signs in to a running server; gives the cookie. */
export async function signInTo(url: string, email: string): Promise<string> {
  const response = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: PASSWORD }),
  });
  return response.headers.get('set-cookie')?.split(';')[0] ?? '';
}

import { createServer } from 'node:net';

/** Below the ports the system gives to outgoing connections, one of which could take a port before it is listened on. */
const [FIRST, LAST] = [15_000, 32_000];
const given = new Set<number>();

const isFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });

/** A port of loopback that nobody listens on, and that this process was not given before. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = FIRST + Math.floor(Math.random() * (LAST - FIRST));
    if (given.has(port) || !(await isFree(port))) continue;
    given.add(port);
    return port;
  }
}

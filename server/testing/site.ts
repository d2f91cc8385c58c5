import { createServer, type RequestListener } from 'node:http';

export interface Site {
  /** `127.0.0.1` with the port it was given. */
  address: string;
  stop: () => Promise<void>;
}

/** A made-up server outside, on loopback and a free port. */
export async function openSite(answer: RequestListener): Promise<Site> {
  const server = createServer(answer);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const at = server.address();
  return {
    address: `127.0.0.1:${typeof at === 'object' && at ? at.port : 0}`,
    stop: () => new Promise((done) => void server.close(() => done())),
  };
}

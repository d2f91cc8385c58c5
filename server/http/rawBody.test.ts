import { request } from 'node:http';
import { Readable } from 'node:stream';
import { useHouse } from '../testing/harness';
import { collectBody } from './rawBody';

const { house } = useHouse();
const pieces = (sizes: readonly number[]): Readable =>
  Readable.from(sizes.map((size, at) => Buffer.alloc(size, at + 1)));

it.each([
  ['told', (size: number) => String(size)],
  ['untold', () => undefined],
])('bytes of a %s size are put together as they came, small and large', async (_, told) => {
  for (const sizes of [[], [3, 4], Array.from({ length: 200 }, () => 65_536)]) {
    const size = sizes.reduce((sum, one) => sum + one, 0);
    const body = await collectBody(pieces(sizes), told(size), 64 * 1024 * 1024);
    expect(body.equals(Buffer.concat(sizes.map((size, at) => Buffer.alloc(size, at + 1))))).toBe(true);
  }
});

it('more than is taken, and another size than was told, are refused', async () => {
  await expect(collectBody(pieces([10]), '10', 9)).rejects.toMatchObject({ statusCode: 413 });
  await expect(collectBody(pieces([5, 5]), undefined, 9)).rejects.toMatchObject({ statusCode: 413 });
  for (const told of ['9', '11'])
    await expect(collectBody(pieces([10]), told, 64)).rejects.toMatchObject({ statusCode: 400 });
});

it('a body of untold size that grows too large is answered with 413 over its own connection', async () => {
  await house.app.listen({ host: '127.0.0.1', port: 0 });
  const address = house.app.server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  const status = await new Promise<number | undefined>((resolve, reject) => {
    const sent = request(
      {
        host: '127.0.0.1',
        port,
        method: 'POST',
        path: '/api/exchange/events',
        headers: { 'content-type': 'application/json' },
      },
      (response) => {
        resolve(response.statusCode);
        sent.destroy();
      },
    );
    sent.on('error', reject);
    // Not ended: whoever sends without end is answered all the same.
    sent.write(Buffer.alloc(1024 * 1024 + 1, 32));
  });
  expect(status).toBe(413);
});

import Fastify from 'fastify';

export interface Site {
  port: number;
  stop(): Promise<void>;
}

const page = (
  app: string,
): string => `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Wharfside Cargo Cycles</title><style>body{font:17px/1.55 Georgia,serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#222;background:#fbf9f4}h1{color:#2c6e68}</style></head><body>
<h1>Wharfside Cargo Cycles</h1><p>Long bikes, trailers and service plans for bakeries, couriers, florists and councils.</p>
<h2>Ask us</h2><script src="${app}/f/ask-us/embed.js"></script>
<noscript><p><a href="${app}/f/ask-us">Write to us here.</a></p></noscript></body></html>`;

/** The shop window: the firm's own website, with the public form in it. */
export async function openShopWindow(host: string, port: number, app: string): Promise<Site> {
  const site = Fastify();
  site.get('/', (_request, reply) => reply.type('text/html; charset=utf-8').send(page(app)));
  await site.listen({ host, port });
  const address = site.server.address();
  return { port: typeof address === 'object' && address ? address.port : port, stop: () => site.close() };
}

import Fastify from 'fastify';

export interface Site {
  port: number;
  stop(): Promise<void>;
}

const STYLE =
  'body{margin:0;font:17px/1.55 Georgia,serif;color:#222;background:#fbf9f4}.wide{max-width:56rem;margin:0 auto;padding:0 1.25rem}header{background:#2c6e68;color:#fff;padding:2.5rem 0 2rem}h1{margin:0;font-size:2.2rem}h2{margin:1.5rem 0 .4rem}.goods{display:grid;grid-template-columns:repeat(auto-fit,minmax(14rem,1fr));gap:1.5rem;border-bottom:1px solid #d8d2c4;padding-bottom:1rem}.goods p{margin:0}';

const page = (
  app: string,
): string => `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Wharfside Cargo Cycles</title><style>${STYLE}</style></head><body>
<header><div class="wide"><h1>Wharfside Cargo Cycles</h1><p>Long bikes, trailers and service plans for bakeries, couriers, florists and councils.</p></div></header>
<main class="wide"><section class="goods"><article><h2>Long bikes</h2><p>Carry 100 kg through any street that has a door at its end.</p></article><article><h2>Trailers</h2><p>Two wheels more behind the bike you have.</p></article><article><h2>Service plans</h2><p>We come to you, before anything breaks.</p></article></section>
<h2>Ask us</h2><script src="${app}/f/ask-us/embed.js"></script>
<noscript><p><a href="${app}/f/ask-us">Write to us here.</a></p></noscript></main></body></html>`;

/** The shop window: the firm's own website, with the public form in it. */
export async function openShopWindow(host: string, port: number, app: string): Promise<Site> {
  const site = Fastify();
  site.get('/', (_request, reply) => reply.type('text/html; charset=utf-8').send(page(app)));
  await site.listen({ host, port });
  const address = site.server.address();
  return { port: typeof address === 'object' && address ? address.port : port, stop: () => site.close() };
}

import { randomUUID } from 'node:crypto';
import Fastify, { type FastifyInstance } from 'fastify';
import { Webhook } from 'standardwebhooks';

export interface ExchangeOptions {
  host: string;
  port: number;
  /** Where the program takes webhooks. */
  hook: string;
  secret: string;
}

export interface Exchange {
  port: number;
  stop(): Promise<void>;
}

interface Call {
  id: string;
  direction: 'in' | 'out';
  from: string;
  to: string;
  startedAt: string;
  answeredAt: string | null;
  endedAt: string | null;
}

const RETRIES_MS = [500, 1500, 4000, 10_000];
const NUMBER = /^\+[0-9]{6,15}$/;

const PAGE = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>The exchange</title><style>body{font:16px/1.5 system-ui,sans-serif;max-width:40rem;margin:2rem auto;padding:0 1rem}label{display:block;margin:.6rem 0}input,textarea{width:100%;font:inherit;padding:.3rem}button{font:inherit;margin-right:.6rem}</style></head><body>
<h1>The exchange</h1><p>Makes a call ring at a line of the team, as a phone switch would.</p>
<form method="post" action="/ring"><label>From<input name="from" value="+351910555014"></label><label>To (a rep's line)<input name="to" value="+442079460100"></label><label>Words of the call, handed over after it ends<textarea name="text" rows="4"></textarea></label><button>Ring</button></form>
<h2>Calls</h2><ul id="calls"></ul>
<script>
async function post(path){await fetch(path,{method:'POST'});show()}
async function show(){const calls=await (await fetch('/calls')).json();document.getElementById('calls').replaceChildren(...calls.map(function(c){const li=document.createElement('li');li.textContent=c.from+' to '+c.to+': '+(c.endedAt?(c.answeredAt?'ended':'missed'):c.answeredAt?'talking':'ringing')+' ';if(!c.endedAt){if(!c.answeredAt){const a=document.createElement('button');a.textContent='Answer';a.onclick=function(){post('/calls/'+c.id+'/answer')};li.append(a)}const e=document.createElement('button');e.textContent='Hang up';e.onclick=function(){post('/calls/'+c.id+'/end')};li.append(e)}return li}))}
show();setInterval(show,1000)
</script></body></html>`;

/**
 * The exchange: places and receives calls between made-up numbers and tells the program by Standard Webhooks. What is not
 * taken is sent again, with the same id, as the specification asks.
 */
export async function openExchange({ host, port, hook, secret }: ExchangeOptions): Promise<Exchange> {
  const app: FastifyInstance = Fastify();
  const webhook = new Webhook(secret);
  const calls = new Map<string, Call>();
  const texts = new Map<string, string>();
  const placedByKey = new Map<string, Promise<Call>>();
  const timers = new Set<NodeJS.Timeout>();

  async function deliver(id: string, body: string, attempt = 0): Promise<void> {
    const now = new Date();
    const response = await fetch(hook, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        'webhook-id': id,
        'webhook-timestamp': String(Math.floor(now.getTime() / 1000)),
        'webhook-signature': webhook.sign(id, now, body),
      },
      body,
      signal: AbortSignal.timeout(5000),
    }).catch(() => null);
    const wait = RETRIES_MS[attempt];
    if (response?.ok || wait === undefined) return;
    const timer = setTimeout(() => {
      timers.delete(timer);
      void deliver(id, body, attempt + 1);
    }, wait);
    timers.add(timer);
  }

  const tell = (type: string, call: Call, more: Record<string, unknown> = {}): Promise<void> =>
    deliver(
      `msg_${randomUUID()}`,
      JSON.stringify({ type, timestamp: new Date().toISOString(), data: { ...call, ...more } }),
    );

  async function ring(direction: Call['direction'], from: string, to: string, text = ''): Promise<Call> {
    const call: Call = {
      id: randomUUID(),
      direction,
      from,
      to,
      startedAt: new Date().toISOString(),
      answeredAt: null,
      endedAt: null,
    };
    calls.set(call.id, call);
    if (text) texts.set(call.id, text);
    await tell('call.ringing', call);
    return call;
  }

  app.addContentTypeParser(
    'application/x-www-form-urlencoded',
    { parseAs: 'string' },
    (_request, body, done) => done(null, Object.fromEntries(new URLSearchParams(String(body)))),
  );
  app.get('/', (_request, reply) => reply.type('text/html; charset=utf-8').send(PAGE));
  app.get('/healthz', () => ({ ok: true }));
  app.get('/calls', () => [...calls.values()].reverse().slice(0, 50));
  app.post<{ Body: { from?: string; to?: string; text?: string } }>('/ring', async (request, reply) => {
    const { from = '', to = '', text = '' } = request.body;
    if (!NUMBER.test(from) || !NUMBER.test(to))
      return reply.code(422).send({ wrong: 'numbers begin with + and the country code' });
    const call = await ring('in', from, to, text);
    return request.headers['content-type']?.includes('json') ? reply.send(call) : reply.redirect('/', 303);
  });
  app.post<{ Body: { from?: string; to?: string } }>('/calls', async (request, reply) => {
    const { from = '', to = '' } = request.body;
    if (!NUMBER.test(from) || !NUMBER.test(to))
      return reply.code(422).send({ wrong: 'numbers begin with + and the country code' });
    // The same key twice is the same call (draft-ietf-httpapi-idempotency-key-header).
    const key = String(request.headers['idempotency-key'] ?? '');
    const placed = placedByKey.get(key);
    if (placed) return placed;
    const call = ring('out', from, to);
    if (key) placedByKey.set(key, call);
    return call;
  });
  app.post<{ Params: { id: string } }>('/calls/:id/answer', async (request, reply) => {
    const call = calls.get(request.params.id);
    if (!call || call.endedAt) return reply.code(404).send({});
    call.answeredAt ??= new Date().toISOString();
    await tell('call.answered', call);
    return call;
  });
  app.post<{ Params: { id: string } }>('/calls/:id/end', async (request, reply) => {
    const call = calls.get(request.params.id);
    if (!call) return reply.code(404).send({});
    call.endedAt ??= new Date().toISOString();
    await tell('call.ended', call);
    const text = texts.get(call.id);
    if (text && call.answeredAt) await tell('call.transcribed', call, { text });
    return call;
  });
  await app.listen({ host, port });
  const address = app.server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    async stop() {
      for (const timer of timers) clearTimeout(timer);
      await app.close();
    },
  };
}

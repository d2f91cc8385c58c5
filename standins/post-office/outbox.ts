import Fastify from 'fastify';
import { simpleParser } from 'mailparser';

const MOST = 200;

interface Sent {
  to: string;
  raw: Buffer;
  at: Date;
}

export interface Outbox {
  port: number;
  keep(to: string, raw: Buffer): void;
  stop(): Promise<void>;
}

const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[sign] ?? '&quot;');
const withLinks = (text: string): string =>
  escape(text).replace(/https?:\/\/[^\s<>"]+/g, (link) => `<a href="${link}">${link}</a>`);

async function card({ to, raw, at }: Sent): Promise<string> {
  const mail = await simpleParser(raw);
  return `<article><p>to <b>${escape(to)}</b>, ${at.toISOString()}</p><h2>${escape(mail.subject ?? '')}</h2><pre>${withLinks(mail.text ?? '')}</pre></article>`;
}

/** Mail that left the house, on a page of its own: the letter boxes of everybody outside, newest first. */
export async function openOutbox(host: string, port: number): Promise<Outbox> {
  const sent: Sent[] = [];
  const site = Fastify();
  site.get('/', async (_request, reply) => {
    const cards = await Promise.all([...sent].reverse().map(card));
    return reply
      .type('text/html; charset=utf-8')
      .send(
        `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>The post office</title><style>body{font:16px/1.5 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem}article{border-top:1px solid #ccc}pre{white-space:pre-wrap;font:inherit}</style></head><body><h1>What went out</h1>${cards.join('') || '<p>Nothing yet.</p>'}</body></html>`,
      );
  });
  await site.listen({ host, port });
  const address = site.server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    keep(to, raw) {
      sent.push({ to, raw, at: new Date() });
      if (sent.length > MOST) sent.shift();
    },
    stop: () => site.close(),
  };
}

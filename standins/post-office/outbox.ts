import Fastify from 'fastify';
import { simpleParser } from 'mailparser';
import { createTransport } from 'nodemailer';
import { ANSWERS, answerTo, isInvitation, type AnswerWord } from './calendar';

const MOST = 200;

interface Sent {
  to: string;
  id: number;
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

/** Whoever was invited answers from their letter box, as a calendar program would. */
const answers = ({ id }: Sent): string =>
  `<form method="post">${Object.keys(ANSWERS)
    .map((word) => `<button formaction="/${id}/${word}">${word}</button>`)
    .join(' ')}</form>`;

async function card(sent: Sent): Promise<string> {
  const { to, raw, at } = sent;
  const mail = await simpleParser(raw);
  return `<article><p>to <b>${escape(to)}</b>, ${at.toISOString()}</p><h2>${escape(mail.subject ?? '')}</h2><pre>${withLinks(mail.text ?? '')}</pre>${(await isInvitation(raw)) ? answers(sent) : ''}</article>`;
}

/** Mail that left the house, on a page of its own: the letter boxes of everybody outside, newest first. */
export async function openOutbox(host: string, port: number, postPort: number): Promise<Outbox> {
  const sent: Sent[] = [];
  let last = 0;
  const site = Fastify();
  site.get('/', async (_request, reply) => {
    const cards = await Promise.all([...sent].reverse().map(card));
    return reply
      .type('text/html; charset=utf-8')
      .send(
        `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>The post office</title><style>body{font:16px/1.5 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem}article{border-top:1px solid #ccc}pre{white-space:pre-wrap;font:inherit}</style></head><body><h1>What went out</h1>${cards.join('') || '<p>Nothing yet.</p>'}</body></html>`,
      );
  });
  site.addContentTypeParser(
    'application/x-www-form-urlencoded',
    { parseAs: 'string' },
    (_request, _body, done) => done(null, null),
  );
  site.post<{ Params: { id: string; word: string } }>('/:id/:word', async (request, reply) => {
    const { id, word } = request.params;
    const found = sent.find((one) => one.id === Number(id));
    const answer =
      found && word in ANSWERS ? await answerTo(found.raw, found.to, word as AnswerWord, new Date()) : null;
    if (!found || !answer) return reply.code(404).type('text/plain').send('There is no such invitation.');
    const post = createTransport({ host, port: postPort, secure: false, ignoreTLS: true });
    await post.sendMail({ envelope: { from: found.to, to: answer.to }, raw: answer.raw });
    return reply.redirect('/', 303);
  });
  await site.listen({ host, port });
  const address = site.server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    keep(to, raw) {
      sent.push({ id: ++last, to, raw, at: new Date() });
      if (sent.length > MOST) sent.shift();
    },
    stop: () => site.close(),
  };
}

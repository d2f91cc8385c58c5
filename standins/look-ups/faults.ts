import type { FastifyReply, FastifyRequest } from 'fastify';
import { setTimeout as sleep } from 'node:timers/promises';
import { share } from './firms';

export const MODES = ['well', 'down', 'slow', 'lying', 'nonsense', 'spent'] as const;
export type Mode = (typeof MODES)[number];

export interface Manners {
  key: string;
  perSecond: number;
  /** Questions it answers before its quota is used up. */
  quota: number;
  /** How often it fails at its first try of a question, and how often it is slow. */
  fails: number;
  slow: number;
}

const SLOW_MS = 900;
const VERY_SLOW_MS = 8000;

/**
 * How a source behaves: it wants its key, takes so many questions a second, has a quota, and is at times slow or out of
 * order, always for the same questions, so that what happens in a test happens again.
 */
export class Behaviour {
  mode: Mode = 'well';
  asked = 0;
  private window = { second: 0, count: 0 };
  private readonly failed = new Set<string>();

  constructor(private readonly manners: Manners) {}

  /** Refuses, delays or fails as the source would. @returns whether the question may be answered */
  async admit(request: FastifyRequest, reply: FastifyReply, key: string, question: string): Promise<boolean> {
    const { manners } = this;
    if (key !== manners.key) return refuse(reply, 401, 'no such key');
    const second = Math.floor(Date.now() / 1000);
    this.window =
      this.window.second === second ? { second, count: this.window.count + 1 } : { second, count: 1 };
    if (this.window.count > manners.perSecond * 1.25 + 1) {
      reply.header('retry-after', '1');
      return refuse(reply, 429, 'too fast');
    }
    if (this.mode === 'down') return refuse(reply, 503, 'out of order');
    if (this.mode === 'spent' || this.asked >= manners.quota) return refuse(reply, 402, 'quota used up');
    if (this.mode === 'slow') await sleep(VERY_SLOW_MS);
    if (request.raw.destroyed) return false;
    if (share(`${question} fails`) < manners.fails && !this.failed.has(question)) {
      this.failed.add(question);
      return refuse(reply, 502, 'lost on the way');
    }
    if (share(`${question} slow`) < manners.slow) await sleep(SLOW_MS);
    this.asked += 1;
    if (this.mode === 'nonsense') {
      reply.type('application/json').send('{"answer": {"is": ["this", {"not"');
      return false;
    }
    return true;
  }
}

function refuse(reply: FastifyReply, status: number, error: string): false {
  reply.code(status).send({ error });
  return false;
}

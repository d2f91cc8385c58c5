import { Webhook, WebhookVerificationError } from 'standardwebhooks';
import { z } from 'zod';
import { forbidden } from '../http/problems';
import { NotSent } from './notSent';
import { mustHoldNoConnection } from '../db/connect';

/** A phone switch. A real one takes the stand-in's place by its address and secret. */
export interface Exchange {
  /**
   * Rings our line and then theirs.
   * @param key the same for the same call; sent as Idempotency-Key
   * @throws NotSent when nobody was rung for sure; another error when that is not known
   */
  place(from: string, to: string, key: string): Promise<{ id: string }>;
  isUp(): Promise<boolean>;
  /**
   * Checks a webhook by its Standard Webhooks headers (id, timestamp within five minutes, HMAC-SHA256).
   * @returns its id and what it says
   * @throws 403 for one that is forged or too old
   */
  verify(body: Buffer, headers: Record<string, unknown>): { id: string; event: unknown };
}

const TIMEOUT_MS = 5000;
const NO_ANSWER = 'the exchange does not answer';
const Placed = z.object({ id: z.string().min(1).max(200) });

const UNREACHED = new Set([
  'ECONNREFUSED',
  'ENOTFOUND',
  'EAI_AGAIN',
  'EHOSTUNREACH',
  'ENETUNREACH',
  'UND_ERR_CONNECT_TIMEOUT',
]);

/** Whether a request never left, because no connection came about. `bad port`: those that fetch refuses to use. */
function isUnreached(error: unknown): boolean {
  const { cause } = error as { cause?: { code?: string; message?: string } };
  return UNREACHED.has(cause?.code ?? '') || cause?.message === 'bad port';
}

export function openExchange(url: string, secret: string): Exchange {
  const webhook = new Webhook(secret);
  return {
    async place(from, to, key) {
      mustHoldNoConnection('the exchange');
      const response = await fetch(`${url}/calls`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': key },
        body: JSON.stringify({ from, to }),
        signal: AbortSignal.timeout(TIMEOUT_MS),
      }).catch((error: unknown) => {
        if (isUnreached(error)) throw new NotSent(NO_ANSWER);
        throw new Error('the exchange was asked and did not answer');
      });
      if (response.status === 503 || response.status === 429) throw new NotSent(NO_ANSWER);
      if (response.status >= 500) throw new Error('the exchange failed while it was asked');
      if (!response.ok) throw new NotSent('the exchange refused this number', true);
      return Placed.parse(await response.json());
    },
    async isUp() {
      mustHoldNoConnection('the exchange');
      const response = await fetch(`${url}/healthz`, { signal: AbortSignal.timeout(1000) }).catch(() => null);
      return response?.ok === true;
    },
    verify(body, headers) {
      const of = (name: string): string => String(headers[name] ?? '');
      const id = of('webhook-id');
      try {
        return {
          id,
          event: webhook.verify(body, {
            'webhook-id': id,
            'webhook-timestamp': of('webhook-timestamp'),
            'webhook-signature': of('webhook-signature'),
          }),
        };
      } catch (error) {
        if (error instanceof WebhookVerificationError || error instanceof SyntaxError)
          throw forbidden('This did not come from the exchange, or is too old.');
        throw error;
      }
    },
  };
}

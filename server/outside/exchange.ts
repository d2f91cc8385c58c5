import { Webhook, WebhookVerificationError } from 'standardwebhooks';
import { conflict, forbidden } from '../http/problems';
import { mustHoldNoConnection } from '../db/connect';

/** A phone switch. A real one takes the stand-in's place by its address and secret. */
export interface Exchange {
  /** Rings our line and then theirs. @throws 409 when the exchange cannot be reached */
  place(from: string, to: string): Promise<{ id: string }>;
  isUp(): Promise<boolean>;
  /**
   * Checks a webhook by its Standard Webhooks headers (id, timestamp within five minutes, HMAC-SHA256).
   * @returns its id and what it says
   * @throws 403 for one that is forged or too old
   */
  verify(body: Buffer, headers: Record<string, unknown>): { id: string; event: unknown };
}

const TIMEOUT_MS = 5000;

export function openExchange(url: string, secret: string): Exchange {
  const webhook = new Webhook(secret);
  return {
    async place(from, to) {
      mustHoldNoConnection('the exchange');
      const response = await fetch(`${url}/calls`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ from, to }),
        signal: AbortSignal.timeout(TIMEOUT_MS),
      }).catch(() => null);
      if (!response?.ok)
        throw conflict(
          'The exchange does not answer. Nobody was called; dial by hand, or try again in a moment.',
        );
      return (await response.json()) as { id: string };
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

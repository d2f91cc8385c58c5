import { normalizeEmail } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { LetterRecipient } from '../db/models/letters';

const WORDS: Readonly<Record<string, string>> = {
  withdrawn: 'withdrew consent to be mailed',
  undeliverable: 'could not be reached at this address',
};

/** What speaks against a letter to one of them, in sentences. A letter by hand is still its writer's to send. */
export async function warningsFor(
  { sequelize, tx }: Pick<Context, 'sequelize' | 'tx'>,
  recipients: readonly Pick<LetterRecipient, 'address' | 'name'>[],
): Promise<string[]> {
  const addresses = recipients.map(({ address }) => normalizeEmail(address));
  if (!addresses.length) return [];
  const states = await sequelize.query<{ address: string; consent: string | null; gone: boolean }>(
    `SELECT a AS address,
       (SELECT c.consent FROM contact_points c WHERE c.kind = 'email' AND c.normalized = a LIMIT 1) AS consent,
       coalesce((SELECT r.state = 'gone' FROM letter_recipients r WHERE lower(r.address) = a AND r.told_at IS NOT NULL ORDER BY r.told_at DESC LIMIT 1), false) AS gone
     FROM unnest($addresses::text[]) a`,
    { bind: { addresses }, type: QueryTypes.SELECT, transaction: tx },
  );
  return states.flatMap(({ address, consent, gone }) => {
    const name = recipients.find((one) => normalizeEmail(one.address) === address)?.name ?? '';
    const who = name ? `${name} (${address})` : address;
    const words = gone ? WORDS.undeliverable : consent ? WORDS[consent] : undefined;
    return words ? [`${who} ${words}.`] : [];
  });
}

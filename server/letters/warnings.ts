import { normalizeEmail } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { LetterRecipient } from '../db/models/letters';

interface Known {
  address: string;
  reach: 'good' | 'full' | 'gone' | null;
  /** Names of the purposes they withdrew from, and how many of all there are they did not. */
  withdrawn: string[] | null;
  others: number;
}

/** What speaks against a letter to one of them, in sentences. A letter by hand is still its writer's to send. */
export async function warningsFor(
  { sequelize, tx }: Pick<Context, 'sequelize' | 'tx'>,
  recipients: readonly Pick<LetterRecipient, 'address' | 'name'>[],
): Promise<string[]> {
  const addresses = recipients.map(({ address }) => normalizeEmail(address));
  if (!addresses.length) return [];
  const known = await sequelize.query<Known>(
    `SELECT a AS address, c.reach, w.withdrawn, (SELECT count(*)::int FROM purposes WHERE retired_at IS NULL AND kind = 'mail') - coalesce(cardinality(w.withdrawn), 0) AS others
       FROM unnest($addresses::text[]) a
       LEFT JOIN contact_points c ON c.kind = 'email' AND c.normalized = a
       LEFT JOIN LATERAL (
         SELECT array_agg(p.name ORDER BY p.position) AS withdrawn FROM consent_states s JOIN purposes p ON p.id = s.purpose_id
          WHERE s.person_id = c.person_id AND s.topic_id IS NULL AND s.state = 'withdrawn' AND p.retired_at IS NULL AND p.kind = 'mail') w ON true`,
    { bind: { addresses }, type: QueryTypes.SELECT, transaction: tx },
  );
  return known.flatMap(({ address, reach, withdrawn, others }) => {
    const name = recipients.find((one) => normalizeEmail(one.address) === address)?.name ?? '';
    const who = name ? `${name} (${address})` : address;
    return [
      ...(withdrawn?.length
        ? [
            others > 0
              ? `${who} withdrew consent to be mailed about ${withdrawn.join(', ')}.`
              : `${who} withdrew consent to be mailed.`,
          ]
        : []),
      ...(reach === 'gone' ? [`${who} could not be reached at this address.`] : []),
      ...(reach === 'full' ? [`The mailbox of ${who} was full.`] : []),
    ];
  });
}

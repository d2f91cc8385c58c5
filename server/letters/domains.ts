import { checkDkim, checkDmarc, checkSpf, type Texts } from '@emporikon/core/outreach/domainRecords';
import type { MailDomain as DomainView } from '@emporikon/contract/mailOut';
import { generateKeyPair } from 'node:crypto';
import { resolveTxt } from 'node:dns/promises';
import { promisify } from 'node:util';
import { runInTransaction, requireActor, type Context, type Tools } from '../commands/context';
import { MailDomain } from '../db/models/letters';
import { notFound } from '../http/problems';
import { sealPassword } from '../mailboxes/seal';

/** Codes with which a resolver says that there is no such record. */
const NONE = new Set(['ENODATA', 'ENOTFOUND']);

async function textsAt(host: string): Promise<Texts> {
  try {
    return (await resolveTxt(host)).map((pieces) => pieces.join(''));
  } catch (error) {
    return NONE.has((error as NodeJS.ErrnoException).code ?? '') ? [] : null;
  }
}

const domainsOf = (ours: readonly string[]): string[] => [
  ...new Set(ours.map((our) => our.split('@').at(-1) ?? '').filter(Boolean)),
];

/** What the name servers say of each of our domains. */
export async function showDomains(tools: Tools): Promise<{ items: DomainView[] }> {
  const keys = await runInTransaction(tools, null, ({ tx }) => MailDomain.findAll({ transaction: tx }));
  const look = tools.outside.texts ?? textsAt;
  const items = await Promise.all(
    domainsOf(tools.house.ours).map(async (domain) => {
      const key = keys.find((one) => one.domain === domain) ?? null;
      const [spf, dkim, dmarc] = await Promise.all([
        look(domain),
        key ? look(`${key.selector}._domainkey.${domain}`) : [],
        look(`_dmarc.${domain}`),
      ]);
      return {
        domain,
        selector: key?.selector ?? null,
        records: [checkSpf(domain, spf, null), checkDkim(domain, dkim, key), checkDmarc(domain, dmarc)],
      };
    }),
  );
  return { items };
}

const generate = promisify(generateKeyPair);

/** A new key pair; 2048 bits of RSA are what all who check can read (RFC 8301). Outside a transaction, for it takes a moment. */
export async function newKey(): Promise<{ publicKey: string; privateKey: string }> {
  const { publicKey, privateKey } = await generate('rsa', {
    modulusLength: 2048,
    publicKeyEncoding: { type: 'spki', format: 'der' },
    privateKeyEncoding: { type: 'pkcs8', format: 'pem' },
  });
  return { publicKey: publicKey.toString('base64'), privateKey };
}

/** Keeps the key that mail of a domain is signed with from now on; each has a name of its own. @throws 404 for a domain that is not ours */
export async function putKey(
  context: Context,
  domain: string,
  { publicKey, privateKey }: Awaited<ReturnType<typeof newKey>>,
): Promise<{ eventId: string | null }> {
  if (!domainsOf(context.house.ours).includes(domain))
    throw notFound(`${domain} is not a domain of your organisation.`);
  const now = context.now();
  const selector = `letters${now.toISOString().slice(0, 10).replaceAll('-', '')}`;
  const sealed = sealPassword(context.outside.sealKey, privateKey);
  const known = await MailDomain.findByPk(domain, { transaction: context.tx, lock: true });
  const values = { selector, sealed, publicKey, createdAt: now };
  if (known) await context.write.update(known, values);
  else await context.write.insert(MailDomain, { domain, ...values });
  return {
    eventId: await context.write.event(
      'sign mail',
      `Made a key to sign mail of ${domain}`,
      requireActor(context).id,
    ),
  };
}

export async function removeKey(context: Context, domain: string): Promise<{ eventId: string | null }> {
  const known = await MailDomain.findByPk(domain, { transaction: context.tx, lock: true });
  if (!known) throw notFound(`Mail of ${domain} is not signed.`);
  await context.write.remove(known);
  return {
    eventId: await context.write.event(
      'sign mail',
      `Signs mail of ${domain} no more`,
      requireActor(context).id,
    ),
  };
}

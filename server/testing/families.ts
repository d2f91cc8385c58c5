import type { SightKind, Visibility } from '@emporikon/contract/visibility';
import { mail, type Client } from './harness';

/** A record with the words that stand on it and nowhere else. */
export interface Kept {
  kind: SightKind;
  id: string;
  secrets: string[];
  /** What it is the part of, or is about. */
  within: Kept[];
}
export interface Family {
  restricted: SightKind;
  visibility: Visibility;
  records: Kept[];
}

let serial = 0;
/** A word nobody else uses. */
const word = (): string =>
  `zq${[...(++serial).toString(36).padStart(3, '0')].map((digit) => 'abcdefghijklmnopqrstuvwxyz'[parseInt(digit, 36) % 26]).join('')}v${serial.toString().replace(/\d/g, (digit) => 'bcdfghjklm'[Number(digit)] ?? '')}`;

const must = <Body extends object>({ status, body }: { status: number; body: Body }): Body => {
  if (status >= 300) throw new Error(`${status}: ${JSON.stringify(body)}`);
  return body;
};

/**
 * A company with a person, a lead, a deal with lines and a quote, a next move, a note and two mails, each with secrets of its own.
 * @param client whose they are
 */
export async function makeFamily(client: Client): Promise<Kept[]> {
  const [firm, name, tag, background, title, lead, deal, line, move, note, told, waiting] = Array.from(
    { length: 12 },
    word,
  ) as [string, string, string, string, string, string, string, string, string, string, string, string];
  const { company } = must(
    await client.call('POST /api/companies', { body: { name: `${firm} Works`, domain: `${firm}.example` } }),
  );
  const owned = {
    params: { id: company.id },
    body: {
      version: (await client.call('GET /api/companies/:id', { params: { id: company.id } })).body.version,
      ownerId: (await client.call('GET /api/session')).body.id,
    },
  };
  must(await client.call('PATCH /api/companies/:id', owned));
  const { person } = must(
    await client.call('POST /api/people', {
      body: {
        fullName: `${name} Holt`,
        jobTitle: title,
        email: `${name}@elsewhere.example`,
        phone: `+44 7700 90${String(serial).padStart(4, '0')}`,
        companyId: company.id,
      },
    }),
  );
  must(
    await client.call('PATCH /api/people/:id', {
      params: { id: person.id },
      body: {
        version: (await client.call('GET /api/people/:id', { params: { id: person.id } })).body.version,
        tags: [tag],
        background: `Once said ${background}.`,
      },
    }),
  );
  const made = must(
    await client.call('POST /api/leads', {
      body: { title: `${lead} bikes`, personId: person.id, companyId: company.id },
    }),
  );
  const sold = must(
    await client.call('POST /api/deals', {
      body: {
        title: `${deal} trailers`,
        companyId: company.id,
        personId: person.id,
        amountMinor: 1000,
      },
    }),
  );
  must(
    await client.call('PUT /api/deals/:id/lines', {
      params: { id: sold.deal.id },
      body: {
        version: (await client.call('GET /api/deals/:id', { params: { id: sold.deal.id } })).body.version,
        lines: [{ name: `${line} rack`, quantity: '1', unitMinor: 1000, taxPercent: '0' }],
      },
    }),
  );
  must(
    await client.call('POST /api/deals/:id/quotes', {
      params: { id: sold.deal.id },
      body: { terms: `Terms of ${line}` },
    }),
  );
  const { task } = must(
    await client.call('POST /api/tasks', {
      body: { title: `Ask about ${move}`, dueAt: '2026-12-01T09:00:00Z', personId: person.id },
    }),
  );
  must(
    await client.call('POST /api/ledger', {
      body: { line: `note: they mentioned ${note}`, about: { personId: person.id } },
    }),
  );
  const entry = (await client.call('GET /api/ledger', { query: { personId: person.id } })).body.items.find(
    ({ headline }) => headline.includes(note),
  );
  const sent = must(
    await client.call('POST /api/captures', {
      raw: mail({
        from: `${name} Holt <${name}@elsewhere.example>`,
        subject: `About ${told}`,
        body: `We spoke of ${told}.`,
        sign: `${name} Holt`,
      }),
    }),
  );
  must(
    await client.call('POST /api/captures/:id/filing', {
      params: { id: sent.id },
      body: { person: person.id, company: company.id, as: 'person', nextMove: null },
    }),
  );
  const open = must(
    await client.call('POST /api/captures', {
      raw: mail({
        from: `Stranger <someone@${waiting}.example>`,
        subject: `About ${waiting}`,
        body: `Could you tell us of ${waiting}?`,
        sign: 'S. Tranger',
      }),
    }),
  );
  const kept = (kind: SightKind, id: string, secrets: string[], within: Kept[] = []): Kept => ({
    kind,
    id,
    secrets,
    within,
  });
  const of = {
    company: kept('companies', company.id, [firm]),
    waiting: kept('captures', open.id, [waiting]),
  };
  const who = kept('people', person.id, [name, tag, background, title], [of.company]);
  return [
    of.company,
    of.waiting,
    who,
    kept('leads', made.lead.id, [lead], [who]),
    kept('deals', sold.deal.id, [deal, line], [of.company]),
    kept('tasks', task.id, [move], [who]),
    kept('ledger', entry?.id ?? '', [note], [who]),
    kept('captures', sent.id, [told], [who]),
  ];
}

/** Whether a record is hidden where another one is: it is that one, or within it. */
export const isWithin = (record: Kept, other: Kept): boolean =>
  record === other || record.within.some((one) => isWithin(one, other));

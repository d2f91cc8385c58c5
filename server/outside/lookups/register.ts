import type { CompanyFact, FoundFact } from '@emporikon/core/lookups/facts';
import { isZone } from '@emporikon/core/lookups/place';
import { z } from 'zod';
import { askOverHttp, SourceTrouble, type LookUpSource, type Question } from './source';

const share = z.number().min(0).max(1);
const Entry = z.object({
  name: z.string().max(300),
  domain: z.string().max(253).nullish(),
  legalName: z.string().max(300).nullish(),
  address: z.string().max(400).nullish(),
  country: z
    .string()
    .regex(/^[A-Z]{2}$/)
    .nullish(),
  employees: z.int().min(0).max(5_000_000).nullish(),
  industry: z.string().max(120).nullish(),
  timeZone: z.string().max(60).nullish(),
  technologies: z.array(z.string().max(60)).max(40).nullish(),
  confidence: share,
});

/** The company register: a firm by its domain, or by its name. `GET /companies?domain=` or `?name=`, key in `X-Api-Key`. */
export const openRegister = (url: string, key: string): LookUpSource => ({
  key: 'register',
  label: 'Company register',
  price: 4,
  charges: 'answers',
  perSecond: 20,
  needs: null,
  tells: (
    [
      ['companyName', 0.7, 0.95],
      ['domain', 0.6, 0.95],
      ['legalName', 0.7, 0.95],
      ['industry', 0.65, 0.85],
      ['employees', 0.6, 0.75],
      ['technologies', 0.4, 0.75],
      ['address', 0.7, 0.9],
      ['country', 0.7, 0.95],
      ['timeZone', 0.7, 0.9],
    ] as const
  ).map(([field, coverage, accuracy]) => ({ about: 'company', field, coverage, accuracy })),
  question({ domain, companyName }): Question | null {
    if (domain) return { domain };
    return companyName ? { name: companyName } : null;
  },
  async ask(question, signal) {
    const answer = await askOverHttp(`${url}/companies?${new URLSearchParams(question)}`, {
      headers: { 'x-api-key': key },
      signal,
    });
    if (answer === null) return { found: false };
    const read = Entry.safeParse(answer);
    if (!read.success) throw new SourceTrouble('nonsense', 'answers in another shape than agreed');
    const entry = read.data;
    const facts: FoundFact[] = [];
    const tell = (
      field: CompanyFact,
      value: string | null | undefined,
      sureness = entry.confidence,
    ): void => {
      if (value?.trim()) facts.push({ about: 'company', field, value: value.trim(), confidence: sureness });
    };
    tell('companyName', entry.name);
    tell('domain', entry.domain?.toLowerCase());
    tell('legalName', entry.legalName);
    tell('address', entry.address);
    tell('country', entry.country);
    tell('industry', entry.industry);
    tell(
      'employees',
      entry.employees === null || entry.employees === undefined ? null : String(entry.employees),
    );
    if (entry.timeZone && isZone(entry.timeZone)) tell('timeZone', entry.timeZone);
    tell('technologies', entry.technologies?.join(', '));
    return { found: true, facts, name: entry.name, domain: entry.domain?.toLowerCase() ?? '' };
  },
});

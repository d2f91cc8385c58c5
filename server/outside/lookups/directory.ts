import type { FoundFact } from '@emporikon/core/lookups/facts';
import { normalizePhone } from '@emporikon/core/people/phones';
import { z } from 'zod';
import { askOverHttp, SourceTrouble, type LookUpSource } from './source';

const Listing = z.object({
  company: z.string().max(300),
  staff: z.int().min(0).max(5_000_000).nullish(),
  trade: z.string().max(120).nullish(),
  numbers: z
    .array(
      z.object({
        number: z.string().max(40),
        holder: z.enum(['person', 'desk']),
        certainty: z.number().min(0).max(1),
      }),
    )
    .max(20),
});

/** The numbers directory: numbers of a person and of the firm's desk. `GET /search?name=&company=&country=&key=`. */
export const openDirectory = (url: string, key: string): LookUpSource => ({
  key: 'directory',
  label: 'Numbers directory',
  price: 6,
  charges: 'finds',
  perSecond: 10,
  needs: null,
  tells: [
    { about: 'person', field: 'phone', coverage: 0.5, accuracy: 0.8 },
    { about: 'company', field: 'phone', coverage: 0.6, accuracy: 0.85 },
    { about: 'company', field: 'employees', coverage: 0.4, accuracy: 0.6 },
    { about: 'company', field: 'industry', coverage: 0.4, accuracy: 0.65 },
  ],
  question: ({ fullName, companyName, country }) =>
    companyName ? { name: fullName, company: companyName, country } : null,
  async ask(question, signal) {
    const answer = await askOverHttp(`${url}/search?${new URLSearchParams({ ...question, key })}`, {
      signal,
    });
    if (answer === null) return { found: false };
    const read = Listing.safeParse(answer);
    if (!read.success) throw new SourceTrouble('nonsense', 'answers in another shape than agreed');
    const facts = read.data.numbers.flatMap<FoundFact>(({ number, holder, certainty }) => {
      const value = normalizePhone(number);
      if (!value || (holder === 'person' && !question.name)) return [];
      return [
        { about: holder === 'person' ? 'person' : 'company', field: 'phone', value, confidence: certainty },
      ];
    });
    const { staff, trade, company } = read.data;
    if (typeof staff === 'number')
      facts.push({ about: 'company', field: 'employees', value: String(staff), confidence: 0.6 });
    if (trade) facts.push({ about: 'company', field: 'industry', value: trade, confidence: 0.6 });
    return { found: true, facts, name: company, domain: '' };
  },
});

import { isEmail, normalizeEmail } from '@emporikon/core/people/emails';
import { z } from 'zod';
import { askOverHttp, SourceTrouble, type LookUpSource } from './source';

const Found = z.object({
  email: z.string().max(254),
  score: z.int().min(0).max(100),
  position: z.string().max(120).nullish(),
});

/** The email finder: somebody's address at a firm. `POST /find {fullName, domain}`, key as a bearer token. */
export const openFinder = (url: string, key: string): LookUpSource => ({
  key: 'finder',
  label: 'Email finder',
  price: 10,
  charges: 'finds',
  perSecond: 10,
  needs: { about: 'company', field: 'domain' },
  tells: [
    { about: 'person', field: 'email', coverage: 0.55, accuracy: 0.85 },
    { about: 'person', field: 'jobTitle', coverage: 0.25, accuracy: 0.75 },
  ],
  question: ({ fullName, domain }) => (fullName.includes(' ') && domain ? { fullName, domain } : null),
  async ask(question, signal) {
    const answer = await askOverHttp(`${url}/find`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${key}` },
      body: JSON.stringify(question),
      signal,
    });
    if (answer === null) return { found: false };
    const read = Found.safeParse(answer);
    if (!read.success) throw new SourceTrouble('nonsense', 'answers in another shape than agreed');
    if (!isEmail(read.data.email)) throw new SourceTrouble('nonsense', 'gives what is no address');
    const confidence = read.data.score / 100;
    const { position } = read.data;
    return {
      found: true,
      name: '',
      domain: question.domain ?? '',
      facts: [
        { about: 'person', field: 'email', value: normalizeEmail(read.data.email), confidence },
        ...(position ? [{ about: 'person', field: 'jobTitle', value: position, confidence } as const] : []),
      ],
    };
  },
});

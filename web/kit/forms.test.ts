import { z } from 'zod';
import { blankValues, isChanged, problemsByField, type FormField } from './forms';

const FIELDS: FormField[] = [
  { name: 'fullName', label: 'Name', kind: 'text', isRequired: true },
  { name: 'email', label: 'Email', kind: 'email' },
  { name: 'company', label: 'Company', kind: 'company', mayBeNew: true },
  { name: 'tags', label: 'Tags', kind: 'tags' },
];
const schema = z.object({
  fullName: z.string().trim().min(1),
  email: z.email().nullish(),
  companyId: z.uuid().optional(),
  other: z.number().optional(),
});
const problems = (body: unknown): Record<string, string> =>
  problemsByField(schema.safeParse(body).error?.issues ?? [], FIELDS, { companyId: 'company' });

it('begins with blanks of each kind, and with what is given', () => {
  expect(blankValues(FIELDS, { fullName: 'Ada' })).toEqual({
    fullName: 'Ada',
    email: '',
    company: null,
    tags: [],
  });
});

it('tells a change from none, also where the tags are new but equal', () => {
  const begun = blankValues(FIELDS, {});
  expect(isChanged({ ...begun, tags: [] }, begun)).toBe(false);
  expect(isChanged({ ...begun, tags: ['fair'] }, begun)).toBe(true);
});

it('says at each field what is wrong with it, in words', () => {
  expect(problems({ fullName: ' ', email: 'x@', companyId: 'no' })).toEqual({
    fullName: 'Name is missing.',
    email: 'This is not an email address.',
    company: expect.stringMatching(/^Company: /),
  });
  expect(problems({})).toEqual({ fullName: 'Name is missing.' });
});

it('keeps what belongs to no field of the form', () => {
  expect(Object.keys(problems({ fullName: 'Ada', other: 'x' }))).toEqual(['']);
});

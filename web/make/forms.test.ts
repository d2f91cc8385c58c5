import '../testing/browser';
import type { Me } from '@emporikon/contract/session';
import { blankValues, type FormValues } from '../kit/forms';
import { useSession } from '../shell/session';
import { openPage, type Page } from '../testing/page';
import type { Begun } from './around';
import { formFor } from './forms';

const ME = '0190a000-0000-7000-8000-000000000001';
const OTHER = '0190a000-0000-7000-8000-000000000002';
let page: Page;
beforeEach(() => {
  page = openPage();
  useSession().me = { timeZone: 'Europe/Lisbon', locale: 'en-GB' } as Me;
});
afterEach(() => page.close());

const team = [{ id: ME, name: 'Pell', role: 'rep' as const, team: '' }];
const form = (what: Parameters<typeof formFor>[0], begun: Begun = {}) =>
  formFor(what, { me: ME, currency: 'EUR', team, begun });
function body(what: Parameters<typeof formFor>[0], typed: FormValues, begun: Begun = {}): object {
  const made = form(what, begun);
  return made.toBody({ ...blankValues(made.fields, made.given), ...typed }) as object;
}

it.each(['person', 'company', 'lead', 'deal', 'task'] as const)(
  'a new %s that is left empty is refused at a field of its form, by the schema of the contract',
  (what) => {
    const made = form(what);
    const checked = made.schema.safeParse(body(what, {}));
    expect(checked.success).toBe(false);
    const names = made.fields.map(({ name }) => name);
    for (const { path } of checked.error?.issues ?? []) {
      const key = String(path[0]);
      expect(names).toContain(made.aliases[key] ?? key);
    }
  },
);

it('every field that holds a record begins with the one it is made from', () => {
  const person = { id: OTHER, label: 'Ines Duarte' };
  expect(body('deal', { title: 'Bikes' }, { person })).toMatchObject({ personId: OTHER, ownerId: ME });
  expect(body('task', { title: 'Call' }, { person })).toMatchObject({ personId: OTHER, assigneeId: ME });
  expect(body('lead', { title: 'Bikes' }, { person })).toMatchObject({ personId: OTHER });
});

it('a name that was typed makes somebody new, one that was picked does not', () => {
  const typed = body('lead', { title: 'Bikes', person: { label: 'Rui' }, company: { label: 'Sol' } });
  expect(typed).toMatchObject({ personName: 'Rui', companyName: 'Sol', companyId: null });
  expect(form('lead').schema.safeParse(typed).success).toBe(true);
  const picked = body('person', { fullName: 'Rui', company: { id: OTHER, label: 'Sol' } });
  expect(picked).toMatchObject({ companyId: OTHER, companyName: null });
  expect(form('person').schema.safeParse(picked).success).toBe(true);
});

it('takes a sum with a comma or short, and says what is none', () => {
  expect(body('deal', { title: 'Bikes', amount: '12.000,50' })).toMatchObject({ amountMinor: 1_200_050 });
  expect(body('deal', { title: 'Bikes', amount: '40k' })).toMatchObject({ amountMinor: 4_000_000 });
  expect(() => body('deal', { title: 'Bikes', amount: 'lots' })).toThrow('“lots” is not a sum.');
});

it('a day is midnight where the user is', () => {
  const summer = body('task', { title: 'Call', day: '2026-07-01' }) as { dueAt: string };
  expect(summer.dueAt).toBe('2026-06-30T23:00:00.000Z');
  expect(form('task').schema.safeParse(summer).success).toBe(true);
});

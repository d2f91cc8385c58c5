import { capture } from './testing/captures';
import { openExtension, settle, type Extension } from './testing/extension';

let extension: Extension;
beforeEach(() => {
  extension = openExtension();
  Object.assign(extension.answers, {
    'GET /api/users': { items: [{ id: 'u2', name: 'Ines Tolland' }] },
    'POST /api/captures/c1/company': { company: { id: 'f1', name: 'Norrhamn Bud' }, eventId: 'e1' },
    'POST /api/events/e1/undo': {},
  });
});
afterEach(() => jest.restoreAllMocks());

const page = (over: object = {}): unknown =>
  capture({
    page: { kind: 'company' },
    claims: [{ id: 'claim-1', field: 'companyName', value: 'Norrhamn Bud AB', fate: 'proposed' }],
    verdict: { companyName: 'Norrhamn Bud AB', company: { kind: 'new', matches: [] } },
    ...over,
  });
const open = async (answer: unknown): Promise<void> => {
  extension.answers['POST /api/captures'] = answer;
  await import('./sheet');
  await settle();
};
const filings = (): unknown[] =>
  extension.asked.filter(({ path }) => path.endsWith('/company')).map(({ body }) => body);
const save = async (): Promise<void> => {
  document.querySelector('form')?.dispatchEvent(new Event('submit'));
  await settle();
};

it('a page of a company and of nobody in it makes the company alone, and can be undone', async () => {
  await open(page());
  expect(extension.text()).toContain('Not in your records yet.');
  const name = document.querySelector<HTMLInputElement>('input[name=company]');
  name!.value = 'Norrhamn Bud';
  document.querySelector<HTMLSelectElement>('select[name=owner]')!.value = 'u2';
  await save();
  expect(filings()).toEqual([{ companyName: 'Norrhamn Bud', ownerId: 'u2' }]);
  expect(document.querySelector('a')?.getAttribute('href')).toMatch(/\/companies\/f1$/);
  extension.button('Undo').click();
  await settle();
  expect(extension.asked.map(({ path }) => path)).toContain('/api/events/e1/undo');
});

it('asks which of those it may be', async () => {
  const matches = [{ id: 'f9', label: 'Norrhamn Bud Sverige', probability: 0.7 }];
  await open(page({ verdict: { companyName: 'Norrhamn Bud AB', company: { kind: 'maybe', matches } } }));
  document.querySelector<HTMLInputElement>('input[name=which]')?.dispatchEvent(new Event('change'));
  await save();
  expect(filings()).toEqual([{ company: 'f9' }]);
});

it('that is filed already leads to its company', async () => {
  await open(
    page({ state: 'filed', filedAs: { company: { id: 'f1', name: 'Norrhamn Bud' }, person: null } }),
  );
  expect(document.querySelector('a')?.textContent).toBe('Open Norrhamn Bud');
  expect(document.querySelector('form')).toBeNull();
});

it('that names somebody is filed as a person', async () => {
  Object.assign(extension.answers, {
    'GET /api/session': { id: 'me', name: 'Pell', timeZone: 'UTC', currency: 'EUR' },
    'GET /api/stages': { items: [] },
  });
  await open(
    page({
      claims: [{ id: 'c', field: 'fullName', value: 'Ada', fate: 'proposed' }],
      verdict: { companyName: '', person: { kind: 'new', matches: [] } },
    }),
  );
  expect(extension.button('File it')).not.toBeNull();
});

import { capture, known } from './testing/captures';
import { openExtension, refused, settle, type Extension } from './testing/extension';

let extension: Extension;
beforeEach(() => {
  extension = openExtension();
  Object.assign(extension.answers, {
    'GET /api/session': { id: 'me', name: 'Pell Garrick', timeZone: 'UTC', currency: 'EUR' },
    'GET /api/users': { items: [] },
    'GET /api/stages': { items: [] },
  });
});
afterEach(() => jest.restoreAllMocks());
const open = async (answer: unknown): Promise<void> => {
  extension.answers['POST /api/captures'] = answer;
  await import('./sheet');
  await settle();
};

describe('the record of somebody we know', () => {
  const person = {
    id: 'p1',
    version: 3,
    fullName: { value: 'Ines Duarte' },
    jobTitle: { value: 'Buyer' },
    company: { name: 'Padaria Sol' },
    standing: 'prospect',
    owner: { name: 'Pell Garrick' },
    turn: { because: 'they wrote last', since: '2026-11-20T09:00:00.000Z' },
    nextMove: { title: 'Send the quote', dueAt: '2026-12-01T09:00:00.000Z' },
    deals: [{ id: 'd1', name: 'Eight bikes', stage: 'Proposal' }],
  };
  beforeEach(() =>
    Object.assign(extension.answers, {
      'GET /api/people/p1': person,
      'GET /api/ledger': { items: [{ headline: 'Asked for a quote', at: '2026-11-20T09:00:00.000Z' }] },
    }),
  );
  const filed = { state: 'filed', filedAs: { person: { id: 'p1', name: 'Ines Duarte' } } };

  it('stands beside the page on the second visit as on the first: turn, last words, move, deals', async () => {
    for (const given of [
      filed,
      { known, verdict: { companyName: null, person: { kind: 'same', matches: [] } } },
    ]) {
      await open(capture(given));
      await settle();
      for (const words of [
        'they wrote last',
        'Asked for a quote',
        'Send the quote',
        'Eight bikes',
        'Proposal',
      ])
        expect(extension.text()).toContain(words);
      jest.resetModules();
    }
  });

  it('a job title is corrected over the version that was seen; another’s change is said, not written over', async () => {
    const sent: unknown[] = [];
    extension.answers['PATCH /api/people/p1'] = ({ body }: { body: unknown }) => {
      sent.push(body);
      return sent.length === 1 ? {} : refused(409, 'Changed.');
    };
    await open(capture(filed));
    await settle();
    for (const jobTitle of ['Head of Buying', ' ']) {
      const field = extension.field('record-title');
      field.value = jobTitle;
      field.dispatchEvent(new Event('change'));
      await settle();
    }
    expect(sent).toEqual([
      { version: 3, jobTitle: 'Head of Buying' },
      { version: 3, jobTitle: null },
    ]);
    expect(extension.text()).toContain('Somebody else changed this record.');
  });

  it('a line of plain words is saved on the record', async () => {
    extension.answers['POST /api/ledger'] = { saved: ['next move: call'] };
    await open(capture(filed));
    await settle();
    const line = extension.field('line');
    line.value = ' call Thursday 11 ';
    line.dispatchEvent(Object.assign(new Event('keydown'), { key: 'Enter' }));
    await settle();
    expect(
      extension.asked.filter(({ path }) => path === '/api/ledger').map(({ body }) => body),
    ).toContainEqual({
      line: 'call Thursday 11',
      about: { personId: 'p1' },
    });
    expect(extension.text()).toContain('Saved: next move: call.');
  });
});

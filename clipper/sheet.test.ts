import { capture, known } from './testing/captures';
import { openExtension, refused, settle, type Extension } from './testing/extension';

let extension: Extension;
beforeEach(() => {
  extension = openExtension();
  Object.assign(extension.answers, {
    'GET /api/session': { id: 'me', name: 'Pell Garrick', timeZone: 'UTC', currency: 'EUR' },
    'GET /api/users': { items: [{ id: 'u2', name: 'Ines Tolland' }] },
    'GET /api/stages': {
      items: [
        { id: 's1', name: 'Proposal', kind: 'open' },
        { id: 's2', name: 'Signed', kind: 'won' },
      ],
    },
    'GET /api/lists': { items: [{ id: 'n1', name: 'Autumn fair' }], tags: [] },
    'POST /api/captures/c1/filing': {
      person: { id: 'p1', name: 'Ines Duarte' },
      company: { id: 'f1', name: 'Padaria Sol' },
      lead: { id: 'l1', name: 'Bikes' },
      deal: null,
      eventId: 'e1',
    },
  });
});
afterEach(() => jest.restoreAllMocks());
const open = async (answer: unknown): Promise<void> => {
  extension.answers['POST /api/captures'] = answer;
  await import('./sheet');
  await settle();
};
const filings = () =>
  extension.asked
    .filter(({ path }) => path.endsWith('/filing'))
    .map(({ body }) => body as Record<string, unknown>);

describe('before it can read', () => {
  it('without a token it asks for one, and leads to where it is given', async () => {
    extension.stored = {};
    await open(capture());
    expect(extension.text()).toContain('Sign in first');
    extension.button('Add a token').click();
    expect(extension.said).toContainEqual({ type: 'options' });
    expect(extension.asked).toEqual([]);
  });

  it('a token that is not taken any more leads there too', async () => {
    await open(refused(401, 'Signed out.'));
    expect(extension.text()).toContain('Sign in first');
  });

  it('says so where the page cannot be read, and what the program says where it refuses', async () => {
    extension.page = null;
    await open(capture());
    expect(extension.text()).toContain('This page cannot be read.');
    extension = openExtension();
    await open(refused(422, 'This page is too large.'));
    expect(extension.text()).toContain('This page is too large.');
  });

  it('Escape closes it', async () => {
    await open(capture());
    extension.answers['POST /api/captures/c1/set-aside'] = {};
    document.dispatchEvent(Object.assign(new Event('keydown'), { key: 'Escape' }));
    await settle();
    expect(extension.said).toContainEqual({ type: 'close' });
  });

  it('closed without filing it leaves nothing in Arrivals; once filed, or while nobody answers, it just closes', async () => {
    extension.answers['POST /api/captures/c1/set-aside'] = {};
    const asides = () => extension.asked.filter(({ path }) => path.endsWith('/set-aside')).length;
    await open(capture());
    extension.button('Close').click();
    await settle();
    expect([asides(), extension.said.filter(({ type }) => type === 'close').length]).toEqual([1, 1]);
    await extension.submit();
    await settle();
    expect(extension.text()).toContain('Filed');
    extension.button('Close').click();
    await settle();
    expect([asides(), extension.said.filter(({ type }) => type === 'close').length]).toEqual([1, 2]);
  });
});

describe('while the program is down', () => {
  it('keeps the page with what is decided, to be sent later', async () => {
    await open(undefined);
    expect(extension.text()).toContain('Emporikon does not answer.');
    extension.field('note').value = ' met at the fair ';
    extension.field('tags').value = 'fair, , bakery';
    extension.button('Keep it').click();
    await settle();
    expect(extension.text()).toContain('It will be sent and filed when Emporikon answers again.');
    expect(extension.stored.waiting).toMatchObject([
      {
        url: 'http://rollcall.example/in/ines',
        html: '<h1>Ines Duarte</h1>',
        filing: { as: 'lead', note: 'met at the fair', tags: ['fair', 'bakery'] },
      },
    ]);
  });

  it('keeps it once however often one presses', async () => {
    await open(undefined);
    extension.button('Keep it').click();
    extension.button('Keep it').click();
    await settle();
    expect(extension.stored.waiting).toHaveLength(1);
  });
});

describe('a profile', () => {
  it('is sent as the page stands, with the token and no cookie', async () => {
    await open(capture());
    const [read] = extension.asked;
    expect([read?.token, read?.body, read?.query.get('by'), read?.query.get('url')]).toEqual([
      'Bearer secret',
      '<h1>Ines Duarte</h1>',
      'clipper',
      'http://rollcall.example/in/ines',
    ]);
    expect((jest.mocked(fetch).mock.calls[0]?.[1] as RequestInit).credentials).toBe('omit');
  });

  it('is filed as a lead of the firm that was read, and can be taken back', async () => {
    await open(capture());
    await extension.submit();
    expect(filings()).toEqual([{ as: 'lead', nextMove: null }]);
    expect(extension.text()).toContain('Ines Duarte, Padaria Sol, lead “Bikes”');
    extension.answers['POST /api/events/e1/undo'] = { undone: 'filing' };
    extension.button('Undo').click();
    await settle();
    expect(extension.asked.map(({ path }) => path)).toContain('/api/events/e1/undo');
    expect(extension.text()).toContain('Not in your records yet.');
  });

  it('goes with what the rep chose', async () => {
    await open(capture());
    extension.field('as').value = 'deal';
    extension.field('owner').value = 'u2';
    extension.field('tags').value = 'fair';
    extension.field('company').value = 'Padaria Lua';
    extension.field('note').value = 'wants eight';
    extension.field('deal-title').value = 'Eight bikes';
    extension.field('deal-value').value = '40.000,50';
    extension.field('stage').value = 's1';
    extension.field('move').value = 'call tomorrow at 11';
    await extension.submit();
    expect(filings()[0]).toMatchObject({
      as: 'deal',
      ownerId: 'u2',
      tags: ['fair'],
      companyName: 'Padaria Lua',
      note: 'wants eight',
      deal: { title: 'Eight bikes', amountMinor: 4_000_050, currency: 'EUR', stageId: 's1' },
      nextMove: { kind: 'call', allDay: false },
    });
  });

  it('without a firm is filed without one', async () => {
    await open(capture());
    extension.field('company').value = '';
    await extension.submit();
    expect(filings()[0]).toMatchObject({ company: 'none' });
  });

  it('of somebody who may be known asks who it is', async () => {
    const matches = [{ id: 'p1', label: 'Ines Duarte, Padaria Sol', probability: 0.824 }];
    extension.answers['GET /api/people/p1'] = { deals: [{ id: 'd1', name: 'Eight bikes' }] };
    await open(capture({ verdict: { companyName: null, person: { kind: 'maybe', matches } } }));
    expect(extension.text()).toContain('Ines Duarte, Padaria Sol (82%)');
    document.querySelector('input[type="radio"]')?.dispatchEvent(new Event('change'));
    await settle();
    expect(extension.text()).toContain('Eight bikes');
    await extension.submit();
    expect(filings()[0]).toMatchObject({ person: 'p1' });
  });

  it('of somebody known says whose turn it is, and offers their deals', async () => {
    extension.answers['GET /api/people/p1'] = { deals: [{ id: 'd1', name: 'Eight bikes' }] };
    await open(capture({ known, verdict: { companyName: null, person: { kind: 'same', matches: [] } } }));
    expect(extension.text()).toContain('Ines Duarte is in your records.');
    expect(extension.text()).toContain('Pell Garrick looks after them. they wrote last.');
    expect(extension.text()).toContain('No next move.');
    extension.field('as').value = 'deal';
    extension.field('deal').value = 'd1';
    await extension.submit();
    expect(filings()[0]).toMatchObject({ as: 'deal', deal: 'd1' });
  });

  it('is kept where the program went away meanwhile, and says why where it refuses', async () => {
    await open(capture());
    extension.field('note').value = 'wants eight';
    delete extension.answers['POST /api/captures/c1/filing'];
    await extension.submit();
    expect(extension.stored.waiting).toMatchObject([
      { id: 'c1', filing: { as: 'lead', note: 'wants eight' } },
    ]);
    expect(extension.text()).toContain('Kept');
    extension = openExtension();
    Object.assign(extension.answers, {
      'GET /api/session': { id: 'me', timeZone: 'UTC', currency: 'EUR' },
      'GET /api/users': { items: [] },
      'GET /api/stages': { items: [] },
      'POST /api/captures/c1/filing': refused(409, 'This may be somebody in your records.'),
    });
    await open(capture());
    await extension.submit();
    expect(extension.text()).toContain('This may be somebody in your records.');
  });

  it('that is filed already is not offered again', async () => {
    await open(capture({ state: 'filed' }));
    expect(extension.text()).toContain('This page is already filed.');
    expect(document.querySelector('form')).toBeNull();
  });

  it('lets a claim be corrected and refused, each at once', async () => {
    const bodies: unknown[] = [];
    const patch = ({ body }: { body: unknown }): object => {
      bodies.push(body);
      return { claim: { id: `claim-${bodies.length + 1}b` } };
    };
    extension.answers['PATCH /api/claims/claim-1'] = patch;
    extension.answers['PATCH /api/claims/claim-2b'] = patch;
    await open(capture());
    const name = extension.field('Name') as HTMLInputElement | null;
    name!.value = ' Ines  Duarte Lima ';
    name!.dispatchEvent(new Event('change'));
    await settle();
    extension.button('Reject Ines Duarte').click();
    await settle();
    expect(bodies).toEqual([{ value: 'Ines  Duarte Lima' }, { fate: 'rejected' }]);
    expect(extension.button('Reject Ines Duarte').textContent).toBe('Restore');
    expect(extension.button('Reject Buyer').textContent).toBe('Restore');
  });
});

describe('a thread of messages', () => {
  const said = [
    { from: 'Ines Duarte', text: 'Could you send a price?', filed: true },
    { from: 'Pell Garrick', text: 'On its way.', filed: false },
    { from: 'Ines Duarte', text: 'Thank you.', filed: false },
  ];

  it('files what the ledger does not have', async () => {
    await open(capture({ page: { kind: 'messages', conversation: said } }));
    expect(extension.text()).toContain('3 messages, 1 in the ledger already.');
    extension.button('File 2 messages').click();
    await settle();
    expect(filings()).toEqual([{}]);
    expect(extension.text()).toContain('2 messages are in the ledger of Ines Duarte.');
  });

  it('of which all is filed has nothing to file', async () => {
    const all = said.map((message) => ({ ...message, filed: true }));
    await open(capture({ page: { kind: 'messages', conversation: all } }));
    expect(extension.text()).toContain('All of it is filed.');
  });
});

describe('a list', () => {
  const listed = [
    {
      name: 'Ines Duarte',
      url: '/in/ines',
      jobTitle: 'Buyer',
      companyName: 'Padaria Sol',
      verdict: 'same',
      owner: 'Pell',
    },
    { name: 'Bo Lund', url: '/in/bo', jobTitle: null, companyName: 'Lund', verdict: 'new', owner: null },
    { name: 'Ann Reed', url: null, jobTitle: null, companyName: null, verdict: 'new', owner: null },
    { name: 'Gil Noot', url: null, jobTitle: null, companyName: null, verdict: 'maybe', owner: null },
  ];

  it('says of each whether in your records, here and in the page', async () => {
    await open(capture({ page: { kind: 'list' }, listed }));
    expect(extension.text()).toContain('in your records, Pell’s');
    expect(extension.said.find(({ type }) => type === 'mark')).toMatchObject({
      people: [
        { name: 'Ines Duarte', words: 'in your records' },
        { name: 'Bo Lund', words: 'new' },
        { name: 'Ann Reed', words: 'new' },
        { name: 'Gil Noot', words: 'maybe known' },
      ],
    });
  });

  it('files those who are chosen, each with its own result', async () => {
    extension.answers['POST /api/captures/c1/listed'] = ({ body }: { body: { rows: number[] } }) =>
      body.rows[0] === 1
        ? { results: [{ outcome: 'filed' }] }
        : { results: [{ outcome: 'refused', reason: 'may be Ann Read' }] };
    await open(capture({ page: { kind: 'list' }, listed }));
    extension.button('All who are new').click();
    extension.field('tags').value = 'fair';
    extension.field('as').value = 'lead';
    extension.field('owner').value = 'u2';
    extension.field('list').value = 'n1';
    await extension.submit();
    await settle();
    const choice = { as: 'lead', tags: ['fair'], ownerId: 'u2', listId: 'n1' };
    expect(extension.asked.filter(({ path }) => path.endsWith('/listed')).map(({ body }) => body)).toEqual([
      { rows: [1], ...choice },
      { rows: [2], ...choice },
    ]);
    // What is filed is known from then on, on the page too.
    expect(extension.said.filter(({ type }) => type === 'mark').at(-1)).toMatchObject({
      people: [
        { words: 'in your records' },
        { words: 'in your records' },
        { words: 'new' },
        { words: 'maybe known' },
      ],
    });
    expect(extension.text()).toContain('may be Ann Read');
    expect(extension.text()).toContain('1 of 2 filed.');
  });
});

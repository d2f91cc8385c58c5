import fc from 'fast-check';
import { QueryTypes } from 'sequelize';
import { everything } from '../testing/everything';
import { mail, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const select = <Row extends object>(sql: string, bind: Record<string, unknown> = {}): Promise<Row[]> =>
  house.sequelize.query<Row>(sql, { bind, type: QueryTypes.SELECT });

let serial = 0;
/** Two records of one person, with mail, lead, deal, task, tag, list and number between them. */
async function double(over: { shareNumber?: boolean; sameTitle?: boolean; tags?: string[] } = {}) {
  const tag = `${++serial}`;
  const from = `Ines Duarte${tag} <ines${tag}@padariasol.example>`;
  const captured = await pell.call('POST /api/captures', {
    raw: mail({
      from,
      sign: `Ines Duarte${tag}\nBuyer\nPadaria Sol\nM +351 910 555 0${tag.padStart(2, '0')}`,
    }),
  });
  const filed = await pell.call('POST /api/captures/:id/filing', {
    params: { id: captured.body.id },
    body: { person: 'new', lead: 'new' },
  });
  const first = filed.body.person.id;
  const made = await pell.call('POST /api/people', {
    body: {
      fullName: `Inês Duarte${tag}`,
      email: `ines.duarte${tag}@freemail.example`,
      jobTitle: over.sameTitle ? 'Buyer' : 'Head of Purchasing',
      ...(over.shareNumber ? { phone: `+351 910 555 0${tag.padStart(2, '0')}` } : {}),
    },
  });
  const second = made.body.person.id;
  const { body: dossier } = await pell.call('GET /api/people/:id', { params: { id: second } });
  await pell.call('PATCH /api/people/:id', {
    params: { id: second },
    body: { version: dossier.version, tags: over.tags ?? ['bakery'], background: 'Met at the fair.' },
  });
  await pell.call('POST /api/leads', { body: { title: `Trailers ${tag}`, personId: second } });
  return { first, second };
}

describe('merging', () => {
  it('moves all that hung on the one that goes, keeps every claim, and lets the old id lead to the survivor', async () => {
    const { first, second } = await double({ shareNumber: true });
    const claims = await house.count('claims');
    const { status, body } = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: first, mergedIds: [second] },
    });
    expect(status).toBe(201);
    expect(await house.count('claims')).toBe(claims);
    const { body: person } = await pell.call('GET /api/people/:id', { params: { id: second } });
    expect(person.id).toBe(first);
    expect(person.contacts.filter((contact) => contact.kind === 'email')).toHaveLength(2);
    expect(person.contacts.filter((contact) => contact.kind === 'phone')).toHaveLength(1);
    expect(person.jobTitle.value).toBe('Head of Purchasing');
    expect(person.leads).toHaveLength(2);
    expect(person.tags).toEqual(['bakery']);
    const patched = await pell.call('PATCH /api/people/:id', {
      params: { id: second },
      body: { version: person.version, jobTitle: 'Buyer' },
    });
    expect(patched.status).toBe(200);
    const task = await pell.call('POST /api/tasks', {
      body: { title: 'Call her', kind: 'call', dueAt: '2026-12-01T09:00:00Z', personId: second },
    });
    expect(task.status).toBe(201);
    const { body: merges } = await pell.call('GET /api/merges', { query: { recordId: second } });
    expect(merges.items.map((item) => item.id)).toEqual(body.mergeIds);
  });

  it('takes the value that was chosen over the one that was proposed', async () => {
    const { first, second } = await double();
    await pell.call('POST /api/merges', {
      body: {
        kind: 'person',
        survivorId: first,
        mergedIds: [second],
        choices: { jobTitle: first, background: second },
      },
    });
    const { body } = await pell.call('GET /api/people/:id', { params: { id: first } });
    expect([body.jobTitle.value, body.background.value]).toEqual(['Buyer', 'Met at the fair.']);
  });

  it('refuses to merge a record with itself and one that is not there', async () => {
    const { first } = await double();
    const itself = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: first, mergedIds: [first] },
    });
    const nobody = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: first, mergedIds: [crypto.randomUUID()] },
    });
    expect([itself.status, nobody.status]).toEqual([422, 404]);
  });

  it('is one of two when two merge the same at once', async () => {
    const { first, second } = await double();
    const both = await Promise.all([
      pell.call('POST /api/merges', { body: { kind: 'person', survivorId: first, mergedIds: [second] } }),
      pell.call('POST /api/merges', { body: { kind: 'person', survivorId: second, mergedIds: [first] } }),
    ]);
    expect(both.filter((one) => one.status === 201)).toHaveLength(1);
    expect(both.every((one) => one.status < 500)).toBe(true);
  });
});

describe('taking apart', () => {
  it('merge then undo is the identity on every table, whatever is on the two and whoever survives', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          shareNumber: fc.boolean(),
          sameTitle: fc.boolean(),
          tags: fc.uniqueArray(fc.constantFrom('bakery', 'fair', 'florist'), { maxLength: 3 }),
        }),
        fc.boolean(),
        async (over, turned) => {
          const { first, second } = await double(over);
          const [survivorId, gone] = turned ? [second, first] : [first, second];
          const before = await everything(house.sequelize);
          const merged = await pell.call('POST /api/merges', {
            body: { kind: 'person', survivorId, mergedIds: [gone] },
          });
          expect(merged.status).toBe(201);
          expect(await everything(house.sequelize)).not.toEqual(before);
          const undone = await pell.call('POST /api/events/:id/undo', {
            params: { id: merged.body.eventId ?? '' },
          });
          expect(undone.status).toBe(200);
          expect(await everything(house.sequelize)).toEqual(before);
        },
      ),
      { numRuns: 8 },
    );
  });

  it('is the identity for companies too, with people, deals and branches', async () => {
    const make = async (name: string, domain: string | null): Promise<string> =>
      (await pell.call('POST /api/companies', { body: { name, domain } })).body.company.id;
    const [one, two] = [
      await make('Greenbasket Foods', 'greenbasket.example'),
      await make('Greenbasket', null),
    ];
    const branch = await make('Greenbasket Porto', null);
    const { body: dossier } = await pell.call('GET /api/companies/:id', { params: { id: branch } });
    await pell.call('PATCH /api/companies/:id', {
      params: { id: branch },
      body: { version: dossier.version, parentId: two },
    });
    await pell.call('POST /api/people', { body: { fullName: 'Tomasz Reis', companyId: two } });
    const before = await everything(house.sequelize);
    const merged = await pell.call('POST /api/merges', {
      body: { kind: 'company', survivorId: one, mergedIds: [two] },
    });
    expect(merged.status).toBe(201);
    const { body: joined } = await pell.call('GET /api/companies/:id', { params: { id: two } });
    expect([joined.id, joined.people.length, joined.branches[0]?.id]).toEqual([one, 1, branch]);
    const mergeId = merged.body.mergeIds[0] ?? '';
    expect(
      (await pell.call('POST /api/merges/:id/unmerge', { params: { id: mergeId }, body: {} })).status,
    ).toBe(200);
    expect(await everything(house.sequelize)).toEqual(before);
  });

  it('sends what happened since where it belongs, and asks about the rest', async () => {
    const { first, second } = await double();
    const merged = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: first, mergedIds: [second] },
    });
    const id = merged.body.mergeIds[0] ?? '';
    const tag = serial;
    const theirs = await pell.call('POST /api/captures', {
      raw: mail({
        from: `Inês Duarte${tag} <ines.duarte${tag}@freemail.example>`,
        subject: 'From home',
        sign: 'Inês',
      }),
    });
    await pell.call('POST /api/captures/:id/filing', {
      params: { id: theirs.body.id },
      body: { person: first, lead: 'none' },
    });
    await pell.call('POST /api/tasks', {
      body: { title: 'Send the list', kind: 'task', dueAt: '2026-12-01T09:00:00Z', personId: first },
    });
    const { body: plan } = await pell.call('GET /api/merges/:id/unmerge', { params: { id } });
    const of = (what: string) => plan.since.find((one) => one.what.includes(what));
    expect(of('From home')?.belongs).toBe('merged');
    const asked = plan.since.filter((one) => one.belongs === 'ask');
    expect(asked.some((one) => one.what.includes('Send the list'))).toBe(true);
    const refused = await pell.call('POST /api/merges/:id/unmerge', { params: { id }, body: {} });
    expect(refused.status).toBe(409);
    const choices = Object.fromEntries(asked.map((one) => [`${one.table}:${one.key}`, 'merged']));
    const done = await pell.call('POST /api/merges/:id/unmerge', { params: { id }, body: { choices } });
    expect([done.status, done.body.id]).toEqual([200, second]);
    const tasks = await select<{ person_id: string }>(
      `SELECT person_id FROM tasks WHERE title = 'Send the list'`,
    );
    expect(tasks[0]?.person_id).toBe(second);
    const links = await select<{ person_id: string }>(
      `SELECT l.person_id FROM ledger_links l JOIN ledger_entries e ON e.id = l.entry_id WHERE e.headline = 'From home' AND l.person_id IS NOT NULL`,
    );
    expect(links.map((link) => link.person_id)).toEqual([second]);
    const again = await pell.call('POST /api/merges/:id/unmerge', { params: { id }, body: {} });
    expect(again.status).toBe(409);
  });

  it('keeps what somebody changed on the survivor since', async () => {
    const { first, second } = await double();
    const merged = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: first, mergedIds: [second] },
    });
    const { body: now } = await pell.call('GET /api/people/:id', { params: { id: first } });
    await pell.call('PATCH /api/people/:id', {
      params: { id: first },
      body: { version: now.version, jobTitle: 'Owner' },
    });
    await pell.call('POST /api/merges/:id/unmerge', {
      params: { id: merged.body.mergeIds[0] ?? '' },
      body: {},
    });
    const { body: kept } = await pell.call('GET /api/people/:id', { params: { id: first } });
    const { body: back } = await pell.call('GET /api/people/:id', { params: { id: second } });
    expect([kept.jobTitle.value, back.jobTitle.value, back.id]).toEqual([
      'Owner',
      'Head of Purchasing',
      second,
    ]);
  });

  it('takes an inner merge apart after the survivor was merged on', async () => {
    const [a, b] = [await double(), await double()];
    const inner = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: a.first, mergedIds: [a.second] },
    });
    await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: b.first, mergedIds: [a.first] },
    });
    const chain = await pell.call('GET /api/people/:id', { params: { id: a.second } });
    expect(chain.body.id).toBe(b.first);
    const id = inner.body.mergeIds[0] ?? '';
    expect((await pell.call('POST /api/merges/:id/unmerge', { params: { id }, body: {} })).status).toBe(200);
    const { body: back } = await pell.call('GET /api/people/:id', { params: { id: a.second } });
    expect([back.id, back.contacts.some((contact) => contact.value.includes('freemail'))]).toEqual([
      a.second,
      true,
    ]);
  });
});

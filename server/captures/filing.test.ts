import { mail, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const capture = async (raw: string) => (await pell.call('POST /api/captures', { raw })).body;
const file = (id: string, body?: object) =>
  pell.call('POST /api/captures/:id/filing', { params: { id }, ...(body ? { body } : {}) });
const undo = (id: string | null) => pell.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const TABLES = ['people', 'companies', 'leads', 'contact_points', 'ledger_entries', 'ledger_links', 'tasks'];
const counts = async () =>
  Object.fromEntries(await Promise.all(TABLES.map(async (table) => [table, await house.count(table)])));

describe('filing', () => {
  it('makes person, company by domain, lead, claims and ledger in one event; one undo takes all of it back', async () => {
    const before = await counts();
    const { id, proposedMove } = await capture(
      mail({
        from: 'Carys Penhallow <carys@penhallow.example>',
        sign: 'Carys Penhallow\nHead of Catering\nPenhallow Events',
      }),
    );
    const { status, body } = await file(id, { nextMove: proposedMove });
    expect(status).toBe(201);
    expect(body).toMatchObject({
      person: { name: 'Carys Penhallow' },
      company: { name: 'Penhallow Events' },
    });
    for (const about of [
      { personId: body.person.id },
      { companyId: body.company?.id ?? '' },
      { leadId: body.lead?.id ?? '' },
    ]) {
      const ledger = await pell.call('GET /api/ledger', {
        query: about as unknown as Record<string, string>,
      });
      expect(ledger.body.items.map((entry) => entry.headline)).toEqual(['Eight bikes']);
      expect(ledger.body.turn.turn).toBe('ours');
    }
    const dossier = (await pell.call('GET /api/people/:id', { params: { id: body.person.id } })).body;
    expect(dossier.jobTitle.claim).toMatchObject({
      captureId: id,
      source: 'signature',
      span: { part: 'text' },
    });
    expect(dossier.nextMove?.title).toBe('Send the quote');
    expect((await undo(body.eventId)).status).toBe(200);
    expect(await counts()).toEqual(before);
    expect((await pell.call('GET /api/captures/:id', { params: { id } })).body.state).toBe('waiting');
    expect((await undo(body.eventId)).status).toBe(409);
  });

  it('knows the person again, fills what was blank and takes the same open lead', async () => {
    const first = (
      await file(
        (
          await capture(
            mail({
              from: 'Gemma Hartley <gemma@tidewell.example>',
              sign: 'Gemma Hartley\nTidewell Borough Council',
            }),
          )
        ).id,
      )
    ).body;
    const next = await capture(
      mail({
        from: 'Gemma Hartley <gemma@tidewell.example>',
        sign: 'Gemma Hartley\nFacilities Manager\nTidewell Borough Council\nTel: 0161 496 0123',
      }),
    );
    expect(next.verdict.person).toMatchObject({ kind: 'same', matches: [{ id: first.person.id }] });
    const second = (await file(next.id)).body;
    expect([second.person.id, second.company?.id, second.lead?.id]).toEqual([
      first.person.id,
      first.company?.id,
      first.lead?.id,
    ]);
    const dossier = (await pell.call('GET /api/people/:id', { params: { id: first.person.id } })).body;
    expect(dossier.jobTitle.value).toBe('Facilities Manager');
    expect(dossier.contacts.find((contact) => contact.kind === 'phone')?.normalized).toBe('+441614960123');
  });

  it('never writes over what a hand wrote; the new reading is a suggestion', async () => {
    const { person } = (
      await file(
        (
          await capture(
            mail({
              from: 'Hamish Rennie <hamish@rennie.example>',
              sign: 'Hamish Rennie\nDirector\nRennie Joinery',
            }),
          )
        ).id,
      )
    ).body;
    await pell.call('PATCH /api/people/:id', {
      params: { id: person.id },
      body: {
        version: (await pell.call('GET /api/people/:id', { params: { id: person.id } })).body.version,
        jobTitle: 'Owner',
      },
    });
    await file(
      (
        await capture(
          mail({
            from: 'Hamish Rennie <hamish@rennie.example>',
            sign: 'Hamish Rennie\nWorkshop Manager\nRennie Joinery',
          }),
        )
      ).id,
    );
    const dossier = (await pell.call('GET /api/people/:id', { params: { id: person.id } })).body;
    expect([dossier.jobTitle.value, dossier.jobTitle.suggestion?.value]).toEqual([
      'Owner',
      'Workshop Manager',
    ]);
  });

  it('asks when it is only a maybe, and files as told', async () => {
    const { person } = (
      await file(
        (
          await capture(
            mail({ from: 'Aoife Nolan <aoife@liffeylinen.example>', sign: 'Aoife Nolan\nLiffey Linen' }),
          )
        ).id,
      )
    ).body;
    const home = await capture(mail({ from: 'Aoife Nolan <a.nolan@gmail.com>', sign: 'Aoife Nolan' }));
    expect(home.verdict.person.kind).toBe('maybe');
    const asked = await file(home.id);
    expect([asked.status, asked.body.type]).toEqual([409, 'urn:emporikon:problem:choice-needed']);
    const told = await file(home.id, { person: person.id });
    expect(told.body.person.id).toBe(person.id);
    expect(told.body.company?.name).toBe('Liffey Linen');
  });

  it('makes no company of a free-mail domain', async () => {
    const { body } = await file(
      (await capture(mail({ from: 'Tamsin Orchard <tamsin@gmail.com>', sign: 'Tamsin' }))).id,
    );
    expect(body.company).toBeNull();
  });

  it('finds the company by its normalised name when there is no domain', async () => {
    const first = (
      await file(
        (
          await capture(
            mail({
              from: 'Delphine Aubry <delphine@gmail.com>',
              sign: 'Delphine Aubry\nFleuriste, Atelier Aubry',
            }),
          )
        ).id,
      )
    ).body;
    const second = (
      await file(
        (
          await capture(
            mail({ from: 'Marc Petit <marc@gmail.com>', sign: 'Marc Petit\nFleuriste\nATELIER AUBRY SARL' }),
          )
        ).id,
      )
    ).body;
    expect(second.company?.id).toBe(first.company?.id);
  });

  it('uses corrections, leaves out what was refused, and cannot be done twice', async () => {
    const { id, claims } = await capture(
      mail({
        from: 'Lorcan Devane <lorcan@shannonside.example>',
        sign: 'Lorcan Devane\nDepot Supervisor\nShannonside Freight\nT +353 20 910 0456',
      }),
    );
    const of = (field: string) => claims.find((claim) => claim.field === field)?.id ?? '';
    const fixed = await pell.call('PATCH /api/claims/:id', {
      params: { id: of('jobTitle') },
      body: { value: 'Depot Manager' },
    });
    expect(fixed.body.claim).toMatchObject({ byHand: true, confidence: 1, actor: 'Pell Garrick' });
    await pell.call('PATCH /api/claims/:id', { params: { id: of('phone') }, body: { fate: 'rejected' } });
    expect(
      (
        await pell.call('PATCH /api/claims/:id', {
          params: { id: of('email') },
          body: { value: 'no address' },
        })
      ).status,
    ).toBe(422);
    const { person } = (await file(id)).body;
    const dossier = (await pell.call('GET /api/people/:id', { params: { id: person.id } })).body;
    expect([dossier.jobTitle.value, dossier.contacts.map((contact) => contact.kind)]).toEqual([
      'Depot Manager',
      ['email'],
    ]);
    expect((await file(id)).status).toBe(409);
  });

  it('will not give one address to two people', async () => {
    await file(
      (await capture(mail({ from: 'Priya Raman <priya@wattlebay.example>', sign: 'Priya Raman' }))).id,
    );
    const other = await file(
      (await capture(mail({ from: 'Priya Raman <priya@wattlebay.example>', sign: 'Priya Raman' }))).id,
      { person: 'new' },
    );
    expect(other.status).toBe(409);
    expect(other.body.detail).toContain('Priya Raman');
  });
});

import { readSchemaOrg } from './schemaOrg';
import type { Sourced } from './outline';

const read = (...documents: unknown[]) =>
  readSchemaOrg(
    documents.map((one) => ({ text: typeof one === 'string' ? one : JSON.stringify(one) }) as Sourced),
  );
const facts = (
  subject: { facts: { field: string; value: string; type?: unknown }[] } | undefined,
): string[] =>
  (subject?.facts ?? []).map(
    (fact) => `${fact.field}=${fact.value}${fact.type ? `/${String(fact.type)}` : ''}`,
  );

describe('a person in the words of schema.org', () => {
  // Source: the first JSON-LD example of schema.org/Person (from memory), with made-up names and numbers.
  it('is read with the address and what they do', () => {
    const { people } = read({
      '@context': 'https://schema.org',
      '@type': 'Person',
      address: {
        '@type': 'PostalAddress',
        addressLocality: 'Seattle',
        addressRegion: 'WA',
        postalCode: '98052',
        streetAddress: '20341 Whitworth Institute 405 N. Whitworth',
      },
      email: 'mailto:jane-doe@xyz.example',
      jobTitle: 'Professor',
      name: 'Jane Doe',
      telephone: '(425) 555-0123',
      url: 'http://www.janedoe.example',
    });
    expect(facts(people[0])).toEqual([
      'fullName=Jane Doe',
      'jobTitle=Professor',
      'email=jane-doe@xyz.example',
      'phone=(425) 555-0123',
      'address=20341 Whitworth Institute 405 N. Whitworth, 98052 Seattle, WA',
      'url=http://www.janedoe.example',
    ]);
    expect(people[0]?.url).toBe('http://www.janedoe.example');
  });

  it('works for the firm that is named in place, by reference, through a role, or that names them', () => {
    const firm = { '@type': 'Bakery', '@id': '#sol', name: 'Padaria Sol', url: 'https://sol.example' };
    const ines = { '@type': 'Person', '@id': '#ines', name: 'Ines Duarte' };
    for (const document of [
      { ...ines, worksFor: firm },
      { '@graph': [firm, { ...ines, worksFor: { '@id': '#sol' } }] },
      { '@graph': [firm, { ...ines, worksFor: '#sol' }] },
      { ...ines, worksFor: { '@type': 'EmployeeRole', roleName: 'Buyer', worksFor: firm } },
      { ...firm, employee: [ines] },
      { '@graph': [{ ...firm, founder: { '@id': '#ines' } }, ines] },
    ])
      expect([JSON.stringify(document).slice(0, 60), facts(read(document).people[0])]).toEqual([
        JSON.stringify(document).slice(0, 60),
        expect.arrayContaining(['fullName=Ines Duarte', 'companyName=Padaria Sol']),
      ]);
    expect(facts(read({ ...ines, worksFor: 'Padaria Sol' }).people[0])).toContain('companyName=Padaria Sol');
  });

  it('is told apart by given and family name, role and occupation', () => {
    const { people } = read({
      '@type': 'http://schema.org/Person',
      givenName: 'Ines',
      familyName: 'Duarte',
      hasOccupation: { '@type': 'Occupation', name: 'Head of Buying' },
      sameAs: ['https://rollcall.example/in/ines', 'https://ines.example'],
    });
    expect(facts(people[0])).toEqual([
      'fullName=Ines Duarte',
      'jobTitle=Head of Buying',
      'profile=https://rollcall.example/in/ines',
      'url=https://ines.example',
    ]);
  });

  it('without a name is nobody', () => {
    expect(read({ '@type': 'Person', email: 'a@b.example' }).people).toEqual([]);
  });
});

describe('a firm', () => {
  it('is read with its points of contact, each number by its kind', () => {
    const { companies } = read({
      '@type': 'LocalBusiness',
      legalName: 'Sol Lda.',
      faxNumber: '+351 210 000 002',
      contactPoint: [
        { '@type': 'ContactPoint', telephone: 'tel:+351910555014', contactType: 'mobile' },
        { '@type': 'ContactPoint', email: 'mailto:info@sol.example', contactType: 'sales' },
      ],
      address: 'Rua do Sol 1, Lisboa',
    });
    expect(facts(companies[0])).toEqual([
      'companyName=Sol Lda.',
      'phone=+351 210 000 002/fax',
      'phone=+351910555014/mobile',
      'email=info@sol.example',
      'address=Rua do Sol 1, Lisboa',
    ]);
  });

  it.each(['Organization', 'Corporation', 'CafeOrCoffeeShop', 'HardwareStore', 'https://schema.org/Florist'])(
    'is a %s',
    (type) => {
      expect(read({ '@type': type, name: 'Sol' }).companies).toHaveLength(1);
    },
  );

  it.each(['WebSite', 'Product', 'Event', 'BreadcrumbList'])('is no %s', (type) => {
    expect(read({ '@type': type, name: 'Sol' }).companies).toEqual([]);
  });
});

describe('what a page says it is', () => {
  const ines = { '@type': 'Person', name: 'Ines Duarte' };
  const bo = { '@type': 'Person', name: 'Bo Lund' };

  it('a profile is of its main entity, whoever else is on it', () => {
    const { people, says } = read({ '@graph': [bo, { '@type': 'ProfilePage', mainEntity: ines }] });
    expect([says, people.map((person) => facts(person)[0])]).toEqual([
      'profile',
      ['fullName=Ines Duarte', 'fullName=Bo Lund'],
    ]);
  });

  it('a list is one', () => {
    expect(read({ '@type': 'ItemList', itemListElement: [{ item: ines }, { item: bo }] })).toMatchObject({
      says: 'list',
      people: [{ kind: 'person' }, { kind: 'person' }],
    });
  });

  it('messages come with who wrote them and when', () => {
    const { conversation } = read({
      '@graph': [
        {
          '@type': 'Message',
          '@id': 'm1',
          sender: ines,
          dateSent: '2026-11-23',
          text: 'Could you send a price?',
        },
        { '@type': 'Comment', author: { name: 'Pell Garrick' }, text: 'On its way.' },
      ],
    });
    expect(conversation).toEqual([
      { id: 'm1', from: 'Ines Duarte', at: '2026-11-23', text: 'Could you send a price?' },
      { id: null, from: 'Pell Garrick', at: null, text: 'On its way.' },
    ]);
  });
});

describe('data that is not what it should be', () => {
  it('says nothing, and keeps nothing else from being read', () => {
    const good = { '@type': 'Person', name: 'Ines Duarte' };
    for (const bad of ['{broken', '', 'null', '[]', '"text"', '{"@type":7}', '<![CDATA[{}]]>'])
      expect([bad, read(bad, good).people.length]).toEqual([bad, 1]);
    expect(read('<![CDATA[{"@type":"Person","name":"Bo Lund"}]]>').people).toHaveLength(1);
  });

  it('that goes in circles, or far down, comes to an end', () => {
    const circle = {
      '@graph': [
        { '@type': 'Person', '@id': '#a', name: 'A', worksFor: { '@id': '#b' } },
        {
          '@type': 'Organization',
          '@id': '#b',
          name: 'B',
          employee: { '@id': '#a' },
          mainEntity: { '@id': '#b' },
        },
      ],
    };
    expect(read(circle).people).toHaveLength(1);
    let deep: unknown = { '@type': 'Person', name: 'Too Deep' };
    for (let at = 0; at < 500; at++) deep = { knows: deep };
    expect(read(deep).people).toEqual([]);
    const many = Array.from({ length: 20_000 }, (_, at) => ({ '@type': 'Person', name: `P ${at}` }));
    expect(read(many).people.length).toBeLessThanOrEqual(3001);
  });
});

import fc from 'fast-check';
import { markHtml, textOfHtml } from '../html';
import { HOSTILE_PAGES } from './hostile';
import { readPage } from './read';

const values = (html: string, url = 'https://x.example/'): string[] =>
  readPage(html, { url }).claims.map((claim) => `${claim.field}=${claim.normalized ?? claim.value}`);

// Source: schema.org/Person, the JSON-LD example of its page, shortened.
it('schema.org: the example of a Person', () =>
  expect(
    values(
      `<script type="application/ld+json">{"@context":"https://schema.org","@type":"Person","address":{"@type":"PostalAddress","addressLocality":"Seattle","addressRegion":"WA","postalCode":"98052","streetAddress":"20341 Whitworth Institute 405 N. Whitworth"},"email":"mailto:jane-doe@xyz.edu","image":"janedoe.jpg","jobTitle":"Professor","name":"Jane Doe","telephone":"(425) 123-4567","url":"http://www.janedoe.com"}</script>`,
    ).slice(0, 3),
  ).toEqual([
    'fullName=Jane Doe',
    'jobTitle=Professor',
    'address=20341 Whitworth Institute 405 N. Whitworth, 98052 Seattle, WA',
  ]));

// Source: schema.org/Organization, the JSON-LD example with contact details, shortened.
it('schema.org: the example of an Organization', () =>
  expect(
    values(
      '<script type="application/ld+json">{"@context":"https://schema.org","@type":"Organization","address":{"@type":"PostalAddress","addressLocality":"Paris, France","postalCode":"F-75002","streetAddress":"38 avenue de l\'Opera"},"email":"secretariat(at)google.org","faxNumber":"( 33 1) 42 68 53 01","name":"Google.org (GOOG)","telephone":"( 33 1) 42 68 53 00"}</script>',
    )[0],
  ).toBe('companyName=Google.org (GOOG)'));

// Source: microformats.org/wiki/h-card, "Examples": a full h-card, and one with the implied name.
it('h-card: the examples of its page', () => {
  expect(
    values(
      '<div class="h-card"><img class="u-photo" src="http://example.org/photo.png" alt="" /><a class="p-name u-url" href="http://example.org">Joe Bloggs</a><a class="u-email" href="mailto:joebloggs@example.com">joebloggs@example.com</a><span class="p-street-address">17 Austerstræti</span><span class="p-locality">Reykjavík</span><span class="p-country-name">Iceland</span></div>',
    ),
  ).toEqual([
    'fullName=Joe Bloggs',
    'address=17 Austerstræti, Reykjavík, Iceland',
    'email=joebloggs@example.com',
    'url=http://example.org',
  ]);
  expect(values('<a class="h-card" href="http://example.org/frances">Frances Berriman</a>')[0]).toBe(
    'fullName=Frances Berriman',
  );
});

it('a page that contradicts itself is never quite sure', () => {
  const { claims } = readPage(
    '<script type="application/ld+json">{"@type":"Person","name":"Henrik Lund","jobTitle":"Driver"}</script><div class="h-card"><span class="p-name">Henrik Lund</span><span class="p-job-title">Fleet Manager</span></div>',
    { url: 'https://x.example/' },
  );
  const title = claims.find((claim) => claim.field === 'jobTitle');
  expect(title).toMatchObject({ value: 'Fleet Manager', source: 'h-card; the page contradicts itself' });
  expect(title?.confidence).toBeLessThan(0.9);
});

describe('what wants to do harm', () => {
  const deepest = (html: string): number => {
    let most = 0;
    let open = 0;
    for (const [, slash] of html.matchAll(/<(\/?)[a-z]/g)) most = Math.max(most, (open += slash ? -1 : 1));
    return most;
  };
  // How long each of them takes beside a plain page of its length is printed by `npm run bench reader`.
  it.each(HOSTILE_PAGES)('%s: is read to its end', (_, html) => {
    const page = `<h1>Tobias Lindqvist</h1>${html}<p>Reach me at tobias@nordbud.example.</p>`;
    expect(textOfHtml(page).text.trimEnd()).toMatch(/Reach me at tobias@nordbud\.example\.$/);
    expect(values(page)).toContainEqual(expect.stringMatching(/^fullName=(?:Tobias Lindqvist|A B)$/));
    expect(deepest(markHtml(html, []))).toBeLessThanOrEqual(500);
  });
  it('what stands after deep nesting is read, and marked where it stands', () => {
    const html = `${'<table><tr><td>'.repeat(2000)}Tobias &amp; Lindqvist<script>var x = '<b>';</script>`;
    expect(textOfHtml(html).text.trim()).toBe('Tobias & Lindqvist');
    const { start, end } = { start: 9, end: 18 };
    expect(markHtml(html, [{ start, end, id: 'n' }])).toContain('<mark data-read="n">Lindqvist</mark>');
  });
  it('a page of thousands of cards gives the first of them', () => {
    const card = (name: string): string => `<p class="h-card"><a class="p-name">${name}</a></p>`;
    const { message } = readPage(
      card('Tobias Lindqvist') + card('Marta Wolny') + card('Ines Duarte').repeat(20_000),
      { url: '' },
    );
    const names = message.page?.people.map((one) => one.name);
    expect(names).toEqual(['Tobias Lindqvist', 'Marta Wolny', 'Ines Duarte']);
  });
  it('any text is read without a failure', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), fc.string({ maxLength: 60 }), (html, url) => {
        for (const { confidence, value } of readPage(`<h1>${html}</h1>${html}`, { url }).claims) {
          expect(confidence).toBeGreaterThan(0);
          expect(value).not.toBe('');
        }
      }),
      { numRuns: 200 },
    ));
});

// Pages of our own making, in habits that are common practice.
describe('a page for readers', () => {
  it('says where somebody is reached, which is no title at a firm', () =>
    expect(values('<h1>Tobias Lindqvist</h1><p>Reach me at tobias@nordbud.example.</p>')).toEqual([
      'fullName=Tobias Lindqvist',
      'email=tobias@nordbud.example',
    ]));
  it('has pronouns beside the name, a dot between title and firm, and an address spelt out', () =>
    expect(
      values(
        '<title>(3) Tobias Lindqvist | Directory</title><h1>Tobias Lindqvist <small>he/him</small></h1><div>Purchasing Manager · Nordbud Logistik AB</div><p>Reach me at tobias [at] nordbud [dot] example.</p><footer>© Directory, hello@directory.example</footer>',
      ),
    ).toEqual([
      'fullName=Tobias Lindqvist',
      'jobTitle=Purchasing Manager',
      'companyName=Nordbud Logistik AB',
      'email=tobias@nordbud.example',
    ]));
  it('of a firm that names its founder is of both', () =>
    expect(
      values(
        '<script type="application/ld+json">{"@type":"LocalBusiness","name":"Brightwater Florists Ltd","email":"hello@brightwater.example","founder":{"@type":"Person","name":"Jo Brightwater"}}</script><h1>Brightwater Florists Ltd</h1>',
      ),
    ).toEqual([
      'fullName=Jo Brightwater',
      'companyName=Brightwater Florists Ltd',
      'email=hello@brightwater.example',
    ]));
  it('of a team lists its people by their headings', () =>
    expect(
      readPage(
        '<h1>Our team</h1><div><h3>Owen Price</h3><p>Managing Director</p><p>owen@larkfield.example</p></div><div><h3>Sian Rees</h3><p>Head of Distribution</p></div><div><h3>Dafydd Lloyd</h3><p>Shop Manager</p></div>',
      ).message.page?.people.map((person) => [person.name, person.jobTitle, person.email]),
    ).toEqual([
      ['Owen Price', 'Managing Director', 'owen@larkfield.example'],
      ['Sian Rees', 'Head of Distribution', null],
      ['Dafydd Lloyd', 'Shop Manager', null],
    ]));
  it('that names its own address as theirs says it once', () =>
    expect(
      values(
        '<script type="application/ld+json">{"@type":"Person","name":"Ines Duarte","url":"https://rollcall.example/people/ines/"}</script><h1>Ines Duarte</h1>',
        'https://rollcall.example/people/ines',
      ).filter((value) => value.startsWith('profile')),
    ).toEqual(['profile=https://rollcall.example/people/ines']));
});

import { readPage } from './read';

const read = (html: string, url = 'https://ashcombe.example/team/x'): string[] =>
  readPage(html, { url }).claims.map(
    ({ field, value, normalized, type }) => `${field}=${field === 'phone' ? `${normalized} ${type}` : value}`,
  );

describe('what belongs to the site, and not to whom its page is about', () => {
  const page = (inside: string, around: { before?: string; after?: string }): string =>
    `<html lang="en"><title>Orson Delby | Ashcombe</title>${around.before ?? ''}<main><h1>Orson Delby</h1><p>Head of Fleet</p>${inside}</main>${around.after ?? ''}</html>`;
  it.each([
    ['a banner', { before: '<header>Ring us: 020 7946 0100, orders@ashcombe.example</header>' }],
    ['a foot', { after: '<footer>help@ashcombe.example · +44 20 7946 0199</footer>' }],
    ['a foot that is called so', { after: '<div class="site-footer">sales@ashcombe.example</div>' }],
    [
      'an advert',
      { after: '<div class="ad-box advert">Frostwell 0161 496 0777, jo@frostwell.example</div>' },
    ],
    ['a notice', { before: '<div role="dialog">privacy@ashcombe.example</div>' }],
    ['a quotation', { after: '<blockquote>Neil Foy, neil@foysdeli.example</blockquote>' }],
    ['words after the copyright', { after: '<p>x</p><p>© 2026 Ashcombe</p><p>+44 20 7946 0177</p>' }],
  ])('%s', (_, around) => {
    expect(read(page('<p>orson@ashcombe.example</p>', around))).toEqual([
      'fullName=Orson Delby',
      'jobTitle=Head of Fleet',
      'companyName=Ashcombe',
      'email=orson@ashcombe.example',
    ]);
  });
  it('a help line, though it stands among their own lines', () => {
    expect(
      read(page('<p>Direct: 020 7946 0123</p><p>Customer care: 020 7946 0100</p>', {})).filter((claim) =>
        claim.startsWith('phone'),
      ),
    ).toEqual(['phone=+442079460123 work']);
  });
  it('an assistant, in a line of her own or under a heading', () => {
    for (const other of [
      '<p>PA: Pru Nash, pru@ashcombe.example, 020 7946 0812</p>',
      '<h3>Secretary</h3><p>Pru Nash</p><p>pru@ashcombe.example</p>',
    ])
      expect(read(page(`<p>orson@ashcombe.example</p>${other}`, {}))).not.toContain(
        'email=pru@ashcombe.example',
      );
  });
  it('but a card beside the text is theirs, where its address is made of their name', () => {
    expect(
      read(page('<p>Runs forty vans.</p>', { after: '<aside>orson.delby@ashcombe.example</aside>' })),
    ).toContain('email=orson.delby@ashcombe.example');
  });
});

describe('labels and values', () => {
  const facts = [
    'fullName=Orson Delby',
    'jobTitle=Buyer',
    'companyName=Delby Cork Ltd',
    'phone=+442079460123 work',
  ];
  it.each([
    [
      'in a table',
      '<table><tr><th>Name</th><td>Orson Delby</td></tr><tr><th>Position</th><td>Buyer</td></tr><tr><th>Company</th><td>Delby Cork Ltd</td></tr><tr><th>Telephone</th><td>020 7946 0123</td></tr></table>',
    ],
    [
      'in a list of terms',
      '<dl><dt>Contact</dt><dd>Orson Delby</dd><dt>Role</dt><dd>Buyer</dd><dt>Organisation</dt><dd>Delby Cork Ltd</dd><dt>Tel.</dt><dd>020 7946 0123</dd></dl>',
    ],
    [
      'in lines',
      '<p>Name: Orson Delby<br>Job title: Buyer<br>Company: Delby Cork Ltd<br>Phone: 020 7946 0123</p>',
    ],
    [
      'two to a row',
      '<table><tr><td>Name:</td><td>Orson Delby</td><td>Position:</td><td>Buyer</td></tr><tr><td>Company:</td><td>Delby Cork Ltd</td><td>Phone:</td><td>020 7946 0123</td></tr></table>',
    ],
    [
      'in boxes',
      '<div><div>Name</div><div>Orson Delby</div></div><div><div>Position</div><div>Buyer</div></div><div><div>Company</div><div>Delby Cork Ltd</div></div><div><div>Phone</div><div>020 7946 0123</div></div>',
    ],
  ])('%s', (_, body) => expect(read(`<html lang="en"><h1>Record</h1>${body}</html>`)).toEqual(facts));

  it('a label followed by the next label has no value', () => {
    expect(read('<dl><dt>Name</dt><dt>Phone</dt><dd>020 7946 0123</dd></dl>')).toEqual([]);
  });
});

describe('who made a page is not whom it is about', () => {
  const person = { '@type': 'Person', name: 'Rosa Whitlock', email: 'rosa@press.example' };
  const script = (data: object): string =>
    `<script type="application/ld+json">${JSON.stringify(data)}</script>`;
  it.each(['author', 'editor', 'reviewedBy', 'creator'])('%s', (by) => {
    expect(
      read(`${script({ '@type': 'WebPage', [by]: person })}<h1>Delby Cork Ltd</h1><p>020 7946 0123</p>`),
    ).toEqual(['companyName=Delby Cork Ltd', 'phone=+442079460123 work']);
  });
  it('unless the page is headed by them', () => {
    expect(read(`${script({ '@type': 'ProfilePage', author: person })}<h1>Rosa Whitlock</h1>`)).toEqual(
      expect.arrayContaining(['fullName=Rosa Whitlock', 'email=rosa@press.example']),
    );
  });
});

describe('microdata and RDFa Lite (HTML Standard, section 5; W3C RDFa Lite 1.1)', () => {
  it('tell of a person with the firm within', () => {
    expect(
      read(
        '<div itemscope itemtype="https://schema.org/Person"><a itemprop="name" href="/x">Orson Delby</a><span itemprop="jobTitle">Buyer</span><div itemprop="worksFor" itemscope itemtype="https://schema.org/Organization"><span itemprop="name">Delby Cork</span></div><a itemprop="email" href="mailto:orson@delby.example">mail</a><meta itemprop="telephone" content="+44 20 7946 0123"></div>',
      ),
    ).toEqual([
      'fullName=Orson Delby',
      'jobTitle=Buyer',
      'companyName=Delby Cork',
      'email=orson@delby.example',
      'phone=+442079460123 work',
    ]);
    expect(
      read(
        '<div vocab="https://schema.org/" typeof="Person"><span property="name">Orson Delby</span><span property="jobTitle">Buyer</span></div>',
      ),
    ).toEqual(expect.arrayContaining(['fullName=Orson Delby', 'jobTitle=Buyer']));
  });
  it('end, however deep or many they are', () => {
    const began = performance.now();
    read('<div itemscope itemtype="https://schema.org/Person"><b itemprop="name">A B</b>'.repeat(20_000));
    read(
      `<div itemscope itemtype="https://schema.org/Person">${'<b itemprop="name">A B</b>'.repeat(30_000)}</div>`,
    );
    expect(performance.now() - began).toBeLessThan(20_000);
  });
});

describe('posts', () => {
  const page = (line: string): string[] =>
    read(`<h1>Orson Delby</h1><p>${line}</p>`, 'https://rollcall.example/x');
  it.each([
    ['Buyer at Delby Cork', 'Buyer', 'Delby Cork'],
    ['Delby Cork GmbH: Einkäufer', 'Einkäufer', 'Delby Cork GmbH'],
    ['Delby Cork Ltd | Head of Logistics | Dad of three', 'Head of Logistics', 'Delby Cork Ltd'],
    ['Owner of Delby Cork', 'Owner', 'Delby Cork'],
    ['Operations Manager at Fjordbud AS, previously Buyer at Nordkaffe', 'Operations Manager', 'Fjordbud AS'],
    ['Jefa de compras en Corchos Delby', 'Jefa de compras', 'Corchos Delby'],
  ])('%s', (line, title, firm) =>
    expect(page(line)).toEqual(expect.arrayContaining([`jobTitle=${title}`, `companyName=${firm}`])),
  );
  it('Head of Parks names no firm', () => {
    expect(page('Head of Parks').some((claim) => claim.startsWith('companyName'))).toBe(false);
  });
  it('the one that is not over is taken', () => {
    const past = '<li><p>Buyer</p><p>Eastgate Ltd</p><p>2011 – 2018</p></li>';
    const now = '<li><p>Fleet Director</p><p>Westgate Ltd</p><p>2018 – present</p></li>';
    for (const list of [past + now, now + past])
      expect(
        read(`<h1>Orson Delby</h1><h2>Experience</h2><ul>${list}</ul>`, 'https://rollcall.example/x'),
      ).toEqual(expect.arrayContaining(['jobTitle=Fleet Director', 'companyName=Westgate Ltd']));
  });
});

it('a page that names nobody gives nothing', () => {
  expect(read('<h1>Rain again</h1><p>It rained on the market, and we sold eleven umbrellas.</p>')).toEqual(
    [],
  );
  expect(read('')).toEqual([]);
});

describe('a heading of two words is not for that somebody’s name', () => {
  it.each([
    ['Long Bike', 'https://shop.example/products/long-bike'],
    ['New Ovens', 'https://shop.example/news/new-ovens'],
    ['Florence Market', 'https://shop.example/florence-market'],
    ['Rose Bakery', 'https://shop.example/rose-bakery'],
  ])('%s', (heading, url) =>
    expect(
      read(
        `<html lang="en"><title>${heading}</title><h1>${heading}</h1><p>Ring 020 7946 0123</p></html>`,
        url,
      ).filter((claim) => claim.startsWith('fullName')),
    ).toEqual([]),
  );
  it('but it is where the site keeps its people there', () =>
    expect(
      read('<h1>Yvain Orsk</h1><p>Runs the yard.</p>', 'https://ashcombe.example/our-people/yvain-orsk'),
    ).toContain('fullName=Yvain Orsk'));
});

it('the page of a firm stays the firm’s, whoever works there', () => {
  const data = '{"@context":"https://schema.org","@type":"Organization","name":"Delby Cork"}';
  const html = `<script type="application/ld+json">${data}</script><h1>Delby Cork</h1><h2>Leeds</h2><ul><li><a href="/people/ada">Ada Crumb</a>, Buyer</li></ul>`;
  const { claims, message } = readPage(html, { url: 'https://rollcall.example/companies/Delby%20Cork' });
  expect([message.page?.kind, claims.map(({ field }) => field)]).toEqual(['company', ['companyName']]);
});

describe('what a site is called', () => {
  const factsOf = (url: string, html: string): Record<string, string> =>
    Object.fromEntries(
      readPage(html, { url }).claims.map((claim) => [claim.field, claim.normalized ?? claim.value]),
    );

  it('is not the line of its places', () =>
    expect(
      factsOf(
        'https://shop.example/about',
        `<html><head><meta property="og:site_name" content="Copper Pot Coffee"><title>About us | Copper Pot Coffee</title></head><body><nav>Shop Wholesale About</nav><article><h1>Hello!</h1><p>I'm Nell Abara and I started Copper Pot Coffee in a shed. Drop me a line: nell@copperpot.example or 07700 900 871.</p></article></body></html>`,
      ),
    ).toMatchObject({ fullName: 'Nell Abara', companyName: 'Copper Pot Coffee' }));

  it('is not the firm of an exhibitor or an advertiser, whose address is elsewhere', () => {
    expect(
      factsOf(
        'https://messe-halle.example/aussteller/412',
        '<html lang="de"><body><header>Messe Halle 2026</header><main><h1>Grieshaber Fördertechnik GmbH</h1><h2>Ansprechpartner</h2><p>Wolfram Grieshaber<br>Vertriebsleiter</p><p>w.grieshaber@grieshaber-ft.example</p></main></body></html>',
      ),
    ).toMatchObject({ fullName: 'Wolfram Grieshaber', companyName: 'Grieshaber Fördertechnik GmbH' });
    expect(
      factsOf(
        'https://werkplek.example/vacature/8831',
        '<html lang="nl"><body><header>Werkplek.example</header><article><h1>Planner</h1><p>Bel met Marije Kuipers, Recruiter, 06 12345600.</p></article></body></html>',
      ).companyName,
    ).toBeUndefined();
  });

  it.each([
    ['Our School Business Manager is Marian Teale.', 'School Business Manager'],
    ['Unsere Einkaufsleiterin ist Marian Teale.', 'Einkaufsleiterin'],
    ['Notre responsable achats est Marian Teale.', 'responsable achats'],
  ])('%s says who has which post', (said, jobTitle) =>
    expect(
      factsOf(
        'https://stoswins.example/office',
        `<html lang="en"><body><main><h2>Deliveries</h2><p>${said} Write to mteale@stoswins.example.</p></main></body></html>`,
      ),
    ).toMatchObject({ fullName: 'Marian Teale', jobTitle, email: 'mteale@stoswins.example' }),
  );
  it('The weather is Marian Teale is no post', () =>
    expect(
      factsOf('https://stoswins.example/office', '<p>The weather is Marian Teale.</p>').fullName,
    ).toBeUndefined());

  it('is what its title says with a legal form, and not its slogan', () =>
    expect(
      factsOf(
        'https://firm.example/',
        '<html lang="en"><head><title>Ashgrove Joinery Ltd - bespoke kitchens</title></head><body><h1>Bespoke kitchens</h1><p>Since 1988.</p><footer><p>Ashgrove Joinery Ltd, Unit 4, Dock Road, Hull HU1 1AA · hello@firm.example</p></footer></body></html>',
      ).companyName,
    ).toBe('Ashgrove Joinery Ltd'));

  it.each([
    [
      'a post before the name in a heading is the post',
      '<html lang="de"><h2>Rechtsanwältin Julia Brandt</h2><p>Durchwahl 0221 2999 11 · brandt@kanzlei.example</p></html>',
      { fullName: 'Julia Brandt', jobTitle: 'Rechtsanwältin' },
    ],
    [
      'an honorific before it is none',
      '<html lang="en"><h1>Professor Amara Nwosu</h1><p>E: a.nwosu@kanzlei.example</p></html>',
      { fullName: 'Amara Nwosu' },
    ],
    [
      'of two posts on a line, the one somebody has now counts',
      '<html lang="en"><h1>Otto Vance</h1><h3>Former CTO, Blue Kettle · now Founder at Stillwater Bikes</h3></html>',
      { fullName: 'Otto Vance', jobTitle: 'Founder', companyName: 'Stillwater Bikes' },
    ],
    [
      'what stands before a colon is none of the firm',
      '<html lang="es"><h1>Se vende furgoneta</h1><p>Anunciante: Frutas Montes SL</p><p>Contacto: Iván Montes</p></html>',
      { fullName: 'Iván Montes', companyName: 'Frutas Montes SL' },
    ],
  ])('%s', (_, html, facts) => expect(factsOf('https://kanzlei.example/team/x', html)).toMatchObject(facts));

  it('a label is the name of no firm', () =>
    expect(
      factsOf(
        'https://vereinigung.example/vorstand',
        '<html lang="de"><body><h1>Vorstand</h1><table><tr><td>Name</td><td>Dr. Almut Richter</td></tr><tr><td>Funktion</td><td>Vorsitzende</td></tr><tr><td>Verein</td><td>Stadtgärten Nord e.V.</td></tr></table></body></html>',
      ),
    ).toMatchObject({ fullName: 'Almut Richter', companyName: 'Stadtgärten Nord e.V.' }));
});

import { besideFace, escape, page } from './look';
import type { Member, Said } from './people';

const data = (value: unknown): string =>
  `<script type="application/ld+json">${JSON.stringify(value).replace(/</g, '\\u003c')}</script>`;

const person = (
  member: Member,
  url: string,
  over: Record<string, unknown> = {},
): Record<string, unknown> => ({
  '@type': 'Person',
  name: member.name,
  jobTitle: member.title,
  worksFor: { '@type': 'Organization', name: member.company, ...(member.site ? { url: member.site } : {}) },
  url,
  ...(member.email ? { email: `mailto:${member.email}` } : {}),
  ...(member.phone ? { telephone: member.phone } : {}),
  ...(member.site ? { sameAs: [member.site] } : {}),
  ...over,
});

const graph = (
  member: Member,
  url: string,
  title = `${member.name} - ${member.title} - ${member.company} | Rollcall`,
): string =>
  [
    ['og:type', 'profile'],
    ['og:site_name', 'Rollcall'],
    ['og:title', title],
    ['og:description', `${member.title} at ${member.company}. ${member.about}`],
    ['og:url', url],
  ]
    .map(([name = '', value = '']) => `<meta property="${name}" content="${escape(value)}">`)
    .join('');

const contact = (member: Member): string =>
  `${member.email ? `<p>Email: <a class="u-email" href="mailto:${member.email}">${member.email}</a></p>` : ''}${member.phone ? `<p>Phone: <span class="p-tel">${member.phone}</span></p>` : ''}`;

const plain = (member: Member): string =>
  besideFace(
    member.name,
    `<h1>${escape(member.name)}</h1><h2>${escape(member.title)} at ${escape(member.company)}</h2><p>${escape(member.about)}</p>${contact(member)}`,
  );

const card = (member: Member, url: string): string =>
  besideFace(
    member.name,
    `<article class="h-card"><h1><a class="p-name u-url" href="${url}">${escape(member.name)}</a></h1><p><span class="p-job-title">${escape(member.title)}</span>, <span class="p-org">${escape(member.company)}</span></p><p class="p-note">${escape(member.about)}</p>${contact(member)}<p class="p-adr h-adr"><span class="p-locality">${escape(member.town)}</span></p></article>`,
  );

/** A profile page, in the vocabulary its member's page happens to speak; two of them contradict themselves. */
export function profilePage(member: Member, base: string): string {
  const url = `${base}/people/${member.slug}`;
  const links = `<p class="more"><a href="/messages/${member.slug}">Messages</a> <a href="/companies/${encodeURIComponent(member.company)}">${escape(member.company)}</a></p>`;
  const title = `${member.name} | Rollcall`;
  const profile = (over: Record<string, unknown> = {}): string =>
    data({ '@context': 'https://schema.org', '@type': 'ProfilePage', mainEntity: person(member, url, over) });
  switch (member.voice) {
    case 'json':
      return page(title, profile(), `${plain({ ...member, email: '', phone: '' })}${links}`);
    case 'card':
      return page(title, '', `${card(member, url)}${links}`);
    case 'graph':
      return page(title, graph(member, url), `${plain(member)}${links}`);
    case 'both':
      return page(title, profile() + graph(member, url), `${card(member, url)}${links}`);
    case 'quarrel':
      return page(
        title,
        profile({ jobTitle: 'Trainee', worksFor: { '@type': 'Organization', name: 'Former Employer' } }) +
          graph(member, url),
        `${card(member, url)}${links}`,
      );
  }
}

export function companyPage(company: string, members: readonly Member[], base: string): string {
  const here = members.filter((member) => member.company === company);
  const [first] = here;
  const list = here
    .map(
      (member) =>
        `<li><a href="/people/${member.slug}">${escape(member.name)}</a>, ${escape(member.title)}</li>`,
    )
    .join('');
  return page(
    `${company} | Rollcall`,
    data({
      '@context': 'https://schema.org',
      '@type': 'Organization',
      name: company,
      ...(first?.site ? { url: first.site } : {}),
      address: { '@type': 'PostalAddress', addressLocality: first?.town ?? '' },
    }) + `<link rel="canonical" href="${base}/companies/${encodeURIComponent(company)}">`,
    besideFace(company, `<h1>${escape(company)}</h1><h2>${escape(first?.town ?? '')}</h2>`) +
      `<ul>${list}</ul>`,
  );
}

export function listPage(members: readonly Member[], q: string, base: string): string {
  const found = members.filter((member) =>
    `${member.name} ${member.title} ${member.company} ${member.town}`.toLowerCase().includes(q.toLowerCase()),
  );
  const items = found
    .map(
      (member) =>
        `<li class="h-card"><a class="p-name u-url" href="${base}/people/${member.slug}">${escape(member.name)}</a> <span class="p-job-title">${escape(member.title)}</span>, <span class="p-org">${escape(member.company)}</span> <small>${escape(member.town)}</small></li>`,
    )
    .join('');
  return page(
    'People | Rollcall',
    '',
    `<h1>People</h1><form><input name="q" value="${escape(q)}" aria-label="Search"> <button>Search</button></form><ul>${items || '<li>Nobody.</li>'}</ul>`,
  );
}

export function messagesPage(member: Member, said: readonly Said[]): string {
  const items = said
    .map(
      (one) =>
        `<li class="h-entry"><span class="p-author h-card">${escape(one.from)}</span> <time class="dt-published" datetime="${one.at}">${one.at.slice(0, 16).replace('T', ' ')}</time><data class="u-uid" value="${one.id}"></data><p class="e-content">${escape(one.text)}</p></li>`,
    )
    .join('');
  return page(
    `Messages with ${member.name} | Rollcall`,
    '',
    `<h1>Messages with ${escape(member.name)}</h1><ol class="h-feed">${items}</ol><form method="post"><textarea name="text" aria-label="Write"></textarea> <button>Send</button></form>`,
  );
}

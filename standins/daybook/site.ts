import Fastify, { type FastifyReply } from 'fastify';
import { escape } from '../rollcall/look';
import type { Site } from '../shop-window/site';
import { etagOf, eventFile, openStore } from './store';

const HOME = '/pell/';
const XML = 'application/xml; charset=utf-8';
const MULTISTATUS =
  '<?xml version="1.0" encoding="utf-8"?><d:multistatus xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav" xmlns:cs="http://calendarserver.org/ns/">';

const answer = (href: string, props: string): string =>
  `<d:response><d:href>${escape(href)}</d:href><d:propstat><d:prop>${props}</d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>`;
const missing = (href: string): string =>
  `<d:response><d:href>${escape(href)}</d:href><d:status>HTTP/1.1 404 Not Found</d:status></d:response>`;

const line = (data: string, name: string): string =>
  new RegExp(`^${name}(?:;[^:]*)?:(.*)$`, 'm').exec(data)?.[1]?.trim() ?? '';
const timeOf = (data: string, name: string): Date | null => {
  const found = /^(\d{4})(\d\d)(\d\d)(?:T(\d\d)(\d\d)(\d\d))?/.exec(line(data, name));
  if (!found) return null;
  const [year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0] = found
    .slice(1)
    .map((part) => Number(part || 0));
  return new Date(Date.UTC(year, month - 1, day, hour, minute, second));
};
const titleOf = (data: string): string => line(data, 'SUMMARY').replace(/\\(.)/g, '$1');

const STYLE =
  'body{font:17px/1.5 Georgia,serif;max-width:40rem;margin:2rem auto;padding:0 1rem;color:#20303a;background:#f4f7f6}h1{font-size:1.7rem;border-bottom:3px solid #c98a2b}li{padding:.5rem 0;border-bottom:1px solid #cfd8d6;list-style:none;display:flex;gap:1rem;align-items:center}ul{padding:0}time{width:11rem}b{flex:1}button,input{font:inherit}form{display:inline}';

/** A page for people, on which the same calendar is changed by hand. */
function page(events: { name: string; data: string }[]): string {
  const rows = events
    .map((event) => ({ ...event, start: timeOf(event.data, 'DTSTART') }))
    .sort((a, b) => (a.start?.getTime() ?? 0) - (b.start?.getTime() ?? 0))
    .map(({ name, data, start }) => {
      const at = start ? start.toISOString().slice(0, 16).replace('T', ' ') : '';
      const act = (what: string, label: string): string =>
        `<form method="post" action="/act/${what}"><input type="hidden" name="name" value="${escape(name)}"><button>${label}</button></form>`;
      return `<li><time>${at}</time><b>${escape(titleOf(data))}</b>${act('later', 'One hour later')}${act('remove', 'Remove')}</li>`;
    });
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Daybook</title><style>${STYLE}</style></head><body><h1>Daybook</h1><p>A calendar elsewhere, over CalDAV. Times are in UTC.</p><ul>${rows.join('')}</ul><form method="post" action="/act/add"><input name="title" placeholder="What" required> <input name="start" type="datetime-local" required> <button>Add</button></form></body></html>`;
}

/** An hour later, in the lines that say when. */
const anHourLater = (data: string): string =>
  data.replace(
    /^(DT(?:START|END)(?:;[^:\r\n]*)?:)(\d{8}T\d{6})(Z?)/gm,
    (whole, head: string, stamp: string, zone: string) => {
      const at = timeOf(`X:${stamp}`, 'X');
      return at
        ? `${head}${new Date(at.getTime() + 3_600_000).toISOString().replace(/[-:]|\.\d{3}Z/g, '')}${zone}`
        : whole;
    },
  );

/** The daybook: a small calendar server that speaks CalDAV (RFC 4791), with one calendar that anybody may sign in to. */
export async function openDaybook(host: string, port: number, folder: string): Promise<Site> {
  const store = openStore(folder);
  const site = Fastify();
  for (const method of ['PROPFIND', 'REPORT']) site.addHttpMethod(method, { hasBody: true });
  site.removeAllContentTypeParsers();
  site.addContentTypeParser('*', { parseAs: 'string' }, (_request, body, done) => done(null, body));
  const multistatus = (reply: FastifyReply, responses: readonly string[]): FastifyReply =>
    reply
      .code(207)
      .type(XML)
      .send(`${MULTISTATUS}${responses.join('')}</d:multistatus>`);
  const mark = (): string =>
    etagOf(
      store
        .names()
        .map((name) => etagOf(store.read(name) ?? ''))
        .join(),
    );
  const collection = (): string =>
    answer(
      HOME,
      `<d:resourcetype><d:collection/><c:calendar/></d:resourcetype><d:displayname>Daybook</d:displayname><cs:getctag>${escape(mark())}</cs:getctag>`,
    );
  const nameIn = (url: string): string => decodeURIComponent(url.slice(HOME.length));

  site.addHook('onRequest', async (request, reply) => {
    if (request.url.startsWith(HOME) && !request.headers.authorization?.startsWith('Basic '))
      await reply.code(401).header('www-authenticate', 'Basic realm="Daybook"').send('sign in');
  });
  site.route({
    method: 'PROPFIND' as 'GET',
    url: `${HOME}*`,
    handler: (_request, reply) => multistatus(reply, [collection()]),
  });
  site.route({
    method: 'REPORT' as 'GET',
    url: `${HOME}*`,
    handler: (request, reply) => {
      const body = String(request.body ?? '');
      const asked = [...body.matchAll(/<(?:\w+:)?href>([^<]+)</g)].map(([, href = '']) => href);
      if (asked.length)
        return multistatus(
          reply,
          asked.map((href) => {
            const data = store.read(nameIn(href));
            return data
              ? answer(
                  href,
                  `<d:getetag>${escape(etagOf(data))}</d:getetag><c:calendar-data>${escape(data)}</c:calendar-data>`,
                )
              : missing(href);
          }),
        );
      const from = timeOf(`X:${/start="(\w+)"/.exec(body)?.[1] ?? ''}`, 'X');
      return multistatus(
        reply,
        store.names().flatMap((name) => {
          const data = store.read(name) ?? '';
          const isOver = from && !/^R(?:RULE|DATE)/m.test(data) && (timeOf(data, 'DTEND') ?? from) < from;
          return isOver
            ? []
            : [
                answer(
                  `${HOME}${encodeURIComponent(name)}`,
                  `<d:getetag>${escape(etagOf(data))}</d:getetag>`,
                ),
              ];
        }),
      );
    },
  });
  const isChanged = (
    name: string,
    { 'if-match': match, 'if-none-match': none }: Record<string, unknown>,
  ): boolean => {
    const data = store.read(name);
    return (
      (none === '*' && data !== null) ||
      (typeof match === 'string' && match !== '*' && (data === null || etagOf(data) !== match))
    );
  };
  site.put(`${HOME}*`, (request, reply) => {
    const name = nameIn(request.url);
    if (isChanged(name, request.headers)) return reply.code(412).send();
    const isNew = store.read(name) === null;
    store.write(name, String(request.body));
    return reply
      .code(isNew ? 201 : 204)
      .header('etag', etagOf(String(request.body)))
      .send();
  });
  site.delete(`${HOME}*`, (request, reply) => {
    const name = nameIn(request.url);
    if (isChanged(name, request.headers)) return reply.code(412).send();
    if (store.read(name) === null) return reply.code(404).send();
    store.remove(name);
    return reply.code(204).send();
  });

  site.get('/', (_request, reply) =>
    reply
      .type('text/html; charset=utf-8')
      .send(page(store.names().map((name) => ({ name, data: store.read(name) ?? '' })))),
  );
  site.post<{ Params: { what: string } }>('/act/:what', (request, reply) => {
    const form = new URLSearchParams(String(request.body));
    const name = form.get('name') ?? '';
    const data = store.read(name);
    const start = new Date(`${form.get('start') ?? ''}Z`);
    if (request.params.what === 'add' && !Number.isNaN(start.getTime()))
      store.write(`${Date.now()}.ics`, eventFile(form.get('title') ?? 'Untitled', start, 60));
    if (request.params.what === 'later' && data) store.write(name, anHourLater(data));
    if (request.params.what === 'remove' && data) store.remove(name);
    return reply.redirect('/', 303);
  });
  await site.listen({ host, port });
  const address = site.server.address();
  return { port: typeof address === 'object' && address ? address.port : port, stop: () => site.close() };
}

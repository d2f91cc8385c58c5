import Fastify from 'fastify';
import type { Site } from '../shop-window/site';
import { Behaviour, MODES, type Mode } from './faults';
import { domainOfName, firmOf, hash, share } from './firms';

/** The keys the demo asks with. Real sources give out their own. */
export const KEYS = {
  register: 'register-demo-key',
  finder: 'finder-demo-key',
  directory: 'directory-demo-key',
};

const ascii = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z]/g, '');

/** The address of somebody at a firm: every firm has one pattern. One answer in ten is of another. */
function addressOf(fullName: string, domain: string, lies: boolean): string {
  const words = fullName.trim().split(/\s+/);
  const [given, family] = [ascii(words[0] ?? ''), ascii(words.at(-1) ?? '')];
  const patterns = [`${given}.${family}`, given, `${given.charAt(0)}${family}`];
  const own = hash(`${domain} pattern`) % patterns.length;
  const isWrong = lies || share(`${fullName} ${domain} wrong`) < 0.1;
  return `${patterns[(own + (isWrong ? 1 : 0)) % patterns.length] ?? given}@${domain}`;
}

/** Numbers from the ranges that are kept for fiction (Ofcom; NANPA 555-01xx). */
function numberOf(text: string, country: string): string {
  const last = String(hash(text) % 1000).padStart(3, '0');
  return country === 'US' ? `+1212555${`01${last.slice(1)}`}` : `+447700900${last}`;
}

const POSITIONS = ['Owner', 'Head of Operations', 'Buyer', 'Fleet Manager', 'Shop Manager'] as const;

/**
 * Three made-up look-up sources in one place: a company register, an email finder and a numbers directory. Each has its
 * own key, rate, quota and coverage; each is at times wrong, and they do not always agree. `POST /faults` sets one out
 * of order.
 */
export async function openLookUpSources(host: string, port: number): Promise<Site> {
  const app = Fastify({ forceCloseConnections: true });
  const sources = {
    register: new Behaviour({ key: KEYS.register, perSecond: 20, quota: 20_000, fails: 0.02, slow: 0.04 }),
    finder: new Behaviour({ key: KEYS.finder, perSecond: 10, quota: 5000, fails: 0.04, slow: 0.1 }),
    directory: new Behaviour({ key: KEYS.directory, perSecond: 10, quota: 8000, fails: 0.03, slow: 0.05 }),
  };
  const unknown = { error: 'nothing known' };

  app.get<{ Querystring: { domain?: string; name?: string } }>(
    '/register/companies',
    async (request, reply) => {
      const { domain, name } = request.query;
      const asked = domain ?? domainOfName(name ?? '');
      if (
        !(await sources.register.admit(
          request,
          reply,
          String(request.headers['x-api-key'] ?? ''),
          `register ${asked}`,
        ))
      )
        return reply;
      if (share(`${asked} in register`) > (domain ? 0.8 : 0.6)) return reply.code(404).send(unknown);
      const firm = firmOf(asked);
      const lies = sources.register.mode === 'lying' || share(`${asked} register wrong`) < 0.05;
      return {
        ...firm,
        ...(name ? { name } : {}),
        ...(lies ? { industry: 'Shipping', employees: firm.employees * 100 } : {}),
        confidence: domain ? 0.92 : 0.75,
      };
    },
  );

  app.post<{ Body: { fullName?: string; domain?: string } }>('/finder/find', async (request, reply) => {
    const { fullName = '', domain = '' } = request.body;
    const key = String(request.headers.authorization ?? '').replace(/^Bearer /, '');
    if (!(await sources.finder.admit(request, reply, key, `finder ${fullName} ${domain}`))) return reply;
    if (!fullName || !domain) return reply.code(400).send({ error: 'fullName and domain are needed' });
    if (share(`${fullName} ${domain} findable`) > 0.65) return reply.code(404).send(unknown);
    return {
      email: addressOf(fullName, domain, sources.finder.mode === 'lying'),
      score: 70 + (hash(`${fullName} score`) % 28),
      position: share(`${fullName} position`) < 0.35 ? POSITIONS[hash(fullName) % POSITIONS.length] : null,
    };
  });

  app.get<{ Querystring: { name?: string; company?: string; country?: string; key?: string } }>(
    '/directory/search',
    async (request, reply) => {
      const { name = '', company = '', country = '', key = '' } = request.query;
      if (!(await sources.directory.admit(request, reply, key, `directory ${name} ${company}`))) return reply;
      const firm = firmOf(domainOfName(company));
      const isListed = share(`${company} listed`) < 0.7;
      const isPersonListed = Boolean(name) && share(`${name} ${company} listed`) < 0.55;
      if (!isListed && !isPersonListed) return reply.code(404).send(unknown);
      const lies = sources.directory.mode === 'lying';
      return {
        company: lies ? 'Quite Another Firm' : company,
        // Counted at another time than the register did.
        staff: isListed
          ? Math.max(1, Math.round(firm.employees * (share(`${company} staff`) < 0.6 ? 1 : 1.4)))
          : null,
        trade: share(`${company} trade`) < 0.5 ? firm.industry : null,
        numbers: [
          ...(isListed
            ? [{ number: numberOf(`${company} desk`, country), holder: 'desk', certainty: 0.88 }]
            : []),
          ...(isPersonListed
            ? [{ number: numberOf(`${name} ${company}`, country), holder: 'person', certainty: 0.82 }]
            : []),
        ],
      };
    },
  );

  app.post<{ Body: { source?: string; mode?: string } }>('/faults', async (request, reply) => {
    const source = sources[request.body.source as keyof typeof sources] as Behaviour | undefined;
    const mode = MODES.find((one): one is Mode => one === request.body.mode);
    if (!source || !mode) return reply.code(400).send({ error: `source and one of ${MODES.join(', ')}` });
    source.mode = mode;
    return { source: request.body.source, mode };
  });
  app.get('/healthz', async () =>
    Object.fromEntries(
      Object.entries(sources).map(([name, one]) => [name, { mode: one.mode, asked: one.asked }]),
    ),
  );
  await app.listen({ host, port });
  const address = app.server.address();
  return { port: typeof address === 'object' && address ? address.port : port, stop: () => app.close() };
}

import type { Reply } from '@emporikon/contract';
import { KEYS, openLookUpSources } from '@emporikon/standins/look-ups/sources';
import { QueryTypes } from 'sequelize';
import { openLookUps } from '../outside/lookups/open';
import { openHouse, type Client, type House } from './harness';

export interface LookUpHouse {
  house: House;
  pell: Client;
  ines: Client;
  mara: Client;
  /** Sets a source out of order, or well again. */
  faults(source: string, mode: string): Promise<Response>;
  setRules(rules: object): Promise<void>;
  /** How many questions were asked of which something holds, SQL. */
  asked(where?: string): Promise<number>;
  gaps(query: { personId: string } | { companyId: string }): Promise<Reply<'GET /api/gaps'>>;
  lookUp(client: Client, body: object): Promise<Reply<'GET /api/look-ups/runs/:id'>>;
  /** Somebody at a firm of their own; both unknown to us but for their name and domain. */
  somebody(over?: { domain?: string; fullName?: string }): Promise<{ personId: string; companyId: string }>;
  company(id: string): Promise<Reply<'GET /api/companies/:id'>>;
  person(id: string): Promise<Reply<'GET /api/people/:id'>>;
  close(): Promise<void>;
}

/** A house with the three stand-in sources open. */
export async function openLookUpHouse(): Promise<LookUpHouse> {
  const site = await openLookUpSources('127.0.0.1', 0);
  const at = (name: keyof typeof KEYS) => ({ url: `http://127.0.0.1:${site.port}/${name}`, key: KEYS[name] });
  const house = await openHouse({
    lookUps: openLookUps({ register: at('register'), finder: at('finder'), directory: at('directory') }),
  });
  const pell = await house.as('pell@wharfside.example');
  const mara = await house.as('mara@wharfside.example');
  let serial = 0;
  return {
    house,
    pell,
    mara,
    ines: await house.as('ines@wharfside.example'),
    faults: (source, mode) =>
      fetch(`http://127.0.0.1:${site.port}/faults`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ source, mode }),
      }),
    async setRules(rules) {
      const { version } = (await mara.call('GET /api/look-ups/rules')).body;
      const { status } = await mara.call('PATCH /api/look-ups/rules', { body: { version, ...rules } });
      if (status !== 200) throw new Error(`the rules were not set (${status})`);
    },
    async asked(where = 'true') {
      const [row] = await house.sequelize.query<{ n: number }>(
        `SELECT count(*)::int AS n FROM look_ups WHERE ${where}`,
        { type: QueryTypes.SELECT },
      );
      return row?.n ?? 0;
    },
    gaps: async (query) => (await pell.call('GET /api/gaps', { query })).body,
    async lookUp(client, body) {
      const started = await client.call('POST /api/look-ups', { body });
      await house.work();
      return (await client.call('GET /api/look-ups/runs/:id', { params: { id: started.body.id } })).body;
    },
    async somebody(over = {}) {
      const at = (serial += 1);
      const letters = 'abcdefghijklmnopqrstuvwxyz'.charAt(at % 26).repeat(2 + Math.floor(at / 26));
      const { company } = (
        await pell.call('POST /api/companies', {
          body: { name: `Firm${letters} Bakery`, domain: over.domain ?? `firm${letters}bakery.example` },
        })
      ).body;
      const { person } = (
        await pell.call('POST /api/people', {
          body: { fullName: over.fullName ?? `Ada Family${letters}`, companyId: company.id },
        })
      ).body;
      return { personId: person.id, companyId: company.id };
    },
    company: async (id) => (await pell.call('GET /api/companies/:id', { params: { id } })).body,
    person: async (id) => (await pell.call('GET /api/people/:id', { params: { id } })).body,
    async close() {
      await house.close();
      await site.stop();
    },
  };
}

import type { PersonConsent } from '@emporikon/contract/consent';
import type { Client, House } from './harness';

/** What people agreed to, and the page on which they choose. */
export const consenting = (house: House) => {
  const consentOf = async (by: Client, id: string): Promise<PersonConsent> =>
    (await by.call('GET /api/people/:id/consent', { params: { id } })).body;
  return {
    consentOf,
    /** State by name, of purposes and topics that somebody said anything about. */
    async statesOf(by: Client, id: string): Promise<Record<string, string>> {
      const { purposes } = await consentOf(by, id);
      const all = purposes.flatMap(({ topics, ...purpose }) => [purpose, ...topics]);
      return Object.fromEntries(all.flatMap(({ name, state }) => (state ? [[name, state]] : [])));
    },
    async idOf(by: Client, name: string): Promise<string> {
      const { items } = (await by.call('GET /api/purposes')).body;
      return items.flatMap((one) => [one, ...one.topics]).find((one) => one.name === name)?.id ?? '';
    },
    /** The path of somebody's page, as their link has it. */
    async pathOf(by: Client, id: string): Promise<string> {
      return new URL((await consentOf(by, id)).link).pathname;
    },
    note: (by: Client, id: string, body: object) =>
      by.call('POST /api/people/:id/consent', { params: { id }, body }),
    post: (url: string, fields: Record<string, string>, headers: Record<string, string> = {}) =>
      house.app.inject({
        method: 'POST',
        url,
        headers: { 'content-type': 'application/x-www-form-urlencoded', ...headers },
        payload: new URLSearchParams(fields).toString(),
      }),
    open: (url: string, language = 'en') =>
      house.app.inject({ url, headers: { 'accept-language': language } }),
  };
};

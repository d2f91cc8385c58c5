import type { Client, House } from './harness';
import type { Letter } from '@emporikon/contract/letters';
import { simpleParser, type ParsedMail } from 'mailparser';

const MINUTE_MS = 60_000;

/** Writes and sends letters in a house, and reads what was handed over. */
export const lettering = (house: House) => {
  const begin = async (by: Client, body: object): Promise<Letter> => {
    const { body: made } = await by.call('POST /api/letters', { body });
    return made.letter as Letter;
  };
  const change = async (by: Client, { id, version }: Letter, patch: object): Promise<Letter> =>
    (await by.call('PATCH /api/letters/:id', { params: { id }, body: { version, ...patch } })).body
      .letter as Letter;
  const send = (by: Client, { id, version }: Letter, more: object = {}) =>
    by.call('POST /api/letters/:id/sending', { params: { id }, body: { version, ...more } });
  /** Lets the time pass until what waits is due, and does it. */
  const pass = async (ms = MINUTE_MS): Promise<void> => {
    const { now } = house.tools;
    const then = now().getTime() + ms;
    house.tools.now = () => new Date(then);
    await house.sequelize.query('UPDATE graphile_worker._private_jobs SET run_at = now()');
    await house.work();
    house.tools.now = now;
  };
  /** A letter that went out, a draft, and a draft to somebody else with a copy to them, each with the secret in it. */
  const writeAll = async (
    by: Client,
    { id, name, email }: { id: string; name: string; email: string },
    secret: string,
  ): Promise<void> => {
    const about = { personId: id };
    await send(by, await begin(by, { about, subject: `For ${name}`, words: `Dear ${name}, the ${secret}.` }));
    await pass();
    await begin(by, { about, words: `An unfinished ${secret}` });
    const copy = { way: 'cc', address: email, name };
    const recipients = [{ way: 'to', address: 'somebody@else.example' }, copy];
    await begin(by, { recipients, words: `You, and a ${secret}` });
  };
  /** A person with an address. */
  const reachable = async (by: Client, fullName: string, email: string): Promise<string> =>
    (await by.call('POST /api/people', { body: { fullName, email } })).body.person.id;
  return {
    reachable,
    writeAll,
    begin,
    change,
    send,
    pass,
    show: async (by: Client, id: string): Promise<Letter> =>
      (await by.call('GET /api/letters/:id', { params: { id } })).body as Letter,
    /** Begins a letter, writes it and sends it. @returns it as it is once it went out */
    async sent(
      by: Client,
      body: object,
      words = { subject: 'Hello', html: '<p>Hello</p>' },
    ): Promise<Letter> {
      const letter = await change(by, await begin(by, body), words);
      await send(by, letter);
      await pass();
      return (await by.call('GET /api/letters/:id', { params: { id: letter.id } })).body as Letter;
    },
    /** The last letter that was handed over, taken apart. */
    async last(): Promise<ParsedMail & { envelope: { from: string; to: readonly string[] }; raw: string }> {
      const mail = house.letters.at(-1);
      if (!mail) throw new Error('nothing was handed over');
      const parsed = await simpleParser(mail.raw);
      return Object.assign(parsed, { envelope: { from: mail.from, to: mail.to }, raw: mail.raw.toString() });
    },
  };
};

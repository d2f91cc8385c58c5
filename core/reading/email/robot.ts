import { alternatives } from '../../words/compile';
import { findEmails, isEmail, localPart, normalizeEmail, registrableDomain } from '../../people/emails';
import { spellsLocalPart } from '../../people/names';
import { fold } from '../../people/text';
import { isAnybodys } from '../others';
import { readAccount } from '../page/account';
import { contactsIn } from '../page/contacts';
import type { Fact } from '../page/facts';
import type { PageLine } from '../page/layout';
import { countriesOfPage } from '../page/countries';
import { isKnownName, isPersonName } from '../page/names';
import { outlineOf } from '../page/outline';
import { readPairs } from '../page/pairs';
import { many, settle } from '../page/weigh';
import type { Claim } from '../types';
import type { Line } from './layers';
import type { Message } from './message';
import { isUnattended } from './nature';
import { isOurs } from './sender';

const ROBOT = new RegExp(String.raw`^(?:${alternatives('robotPart')})$`, 'iu');
const VOICEMAIL = /voice ?mail|anrufbeantworter|mailbox|messagerie|buz[oó]n|segreteria telefonica/i;
const NAME_BEFORE = /(\p{Lu}[\p{L}'’-]*(?:\s+(?:van|von|de|da|der|di|\p{Lu}[\p{L}'’.-]*)){1,3})\s*[(<[]\s*$/u;
const TWO_WORDS = /(?=(?<!\p{L})(\p{Lu}[\p{L}'’-]+\s\p{Lu}[\p{L}'’-]+))/gu;
const LONGEST_TEXT = 20_000;
const MOST_LINES = 200;
const SINGLE = ['fullName', 'jobTitle', 'companyName', 'address'] as const;
/** Who a form or a portal says has written is who has written, unless somebody mistyped. */
const SURE = 0.94;

/** Whether a mail is sent by a program, by what its sender is called. */
function isRobots({ from }: Message, ours: readonly string[]): boolean {
  if (!from) return false;
  if (isUnattended(from.address)) return true;
  const called = fold(`${localPart(from.address)} ${from.name}`).split(' ');
  const isCalledSo = called.some((word) => ROBOT.test(word));
  return isCalledSo && (!isKnownName(from.name) || isOurs(from.address, ours));
}

const asLines = (lines: readonly Line[]): PageLine[] =>
  lines
    .slice(0, MOST_LINES)
    .filter((line) => line.text.trim())
    .map(({ text, start }) => ({
      text,
      start,
      region: 'main',
      level: 0,
      hint: null,
    }));

/** The facts that labels say, and whether there are enough of them for the mail to be a form that was filled in. */
function labelledContacts(lines: readonly PageLine[]): { facts: Fact[]; isForm: boolean } {
  const pairs = readPairs(lines);
  const fields = new Set(pairs.map((pair) => pair.field));
  const facts = pairs
    .filter((pair) => pair.field === 'email' || pair.field === 'phone')
    .flatMap((pair) => lines.slice(pair.line, pair.line + 1).flatMap(contactsIn))
    .map((fact): Fact => ({ ...fact, origin: 'labelled lines' }));
  const isNamed = ['fullName', 'givenName', 'familyName', 'companyName'].some((field) =>
    fields.has(field as Fact['field']),
  );
  return { facts, isForm: fields.size >= 2 && (isNamed || fields.has('email')) };
}

/**
 * Whom a mail is about that a program sent: a form that was filled in, a buyer a portal hands on, a caller who left a message.
 * @param lines what the program wrote
 * @param country where whoever reads it is
 * @returns their claims; null where no program sent it, or it is about nobody
 */
export function readRobot(
  message: Message,
  lines: readonly Line[],
  ours: readonly string[],
  country: string | undefined,
): Claim[] | null {
  const isOfNobody =
    message.isBounce || message.nature === 'automatic reply' || message.nature === 'newsletter';
  if (isOfNobody || !isRobots(message, ours) || !message.from) return null;
  const { from, replyTo, text } = message;
  const host = registrableDomain(from.address);
  const isRobotsOwn = (address: string): boolean =>
    normalizeEmail(address) === normalizeEmail(from.address) ||
    isOurs(address, ours) ||
    (registrableDomain(address) === host && !isOurs(from.address, ours));
  const shown = asLines(lines).filter(
    (line) =>
      !isSignedBy(line.text, from.name) &&
      !contactsIn(line).some((fact) => fact.field === 'email' && isRobotsOwn(fact.value)),
  );
  const account = readAccount(
    { layout: { text, lines: shown, read: shown, links: [] }, outline: outlineOf(''), url: '', host: null },
    false,
  );
  const { facts: contacts, isForm } = labelledContacts(shown);
  const isCall = VOICEMAIL.test(`${from.name} ${from.address} ${message.subject}`);
  const named = [...beforeAddress(shown), ...fittingAddress(shown, `${message.subject}\n${text}`)].slice(
    0,
    2,
  );
  const phones = shown
    .filter((line) => !isAnybodys(line.text))
    .flatMap(contactsIn)
    .filter((fact) => fact.field === 'phone');
  const calls = isCall || named.length ? phones.slice(0, 1) : [];
  if (
    !isForm &&
    !isCall &&
    !named.length &&
    !(account && (hasContact(account.facts) || message.subject.includes(account.name))) &&
    !replyTo
  )
    return null;
  const written =
    replyTo && isEmail(replyTo.address) && !isRobotsOwn(replyTo.address)
      ? [{ field: 'email' as const, value: replyTo.address, origin: 'labelled lines' as const }]
      : [];
  const facts = [...contacts, ...(account?.facts ?? []), ...(account ? [] : named), ...calls, ...written]
    .filter((fact) => fact.field !== 'email' || !isRobotsOwn(fact.value))
    .filter((fact) => fact.field !== 'address' || fact.origin === 'labelled lines');
  if (!facts.length) return null;
  const page = { text, html: '' };
  const countries = countriesOfPage(text, outlineOf(''), host, country);
  const claims = [...SINGLE.flatMap((field) => settle(field, facts, page)), ...many(facts, page, countries)];
  return claims.map((claim) => ({
    ...claim,
    confidence: Math.min(SURE, Math.max(claim.confidence, claim.source === 'labelled lines' ? SURE : 0)),
    source: 'what the message hands on',
  }));
}

/** "Directorio Industrial, C/ Mayor 1, Madrid. Tel. 910 123 456": the line a program signs with. */
const isSignedBy = (line: string, name: string): boolean =>
  name.length >= SHORTEST_NAME && fold(line).startsWith(`${fold(name)} `) && /\d/.test(line);
const SHORTEST_NAME = 5;

/** "Edwin Tarrant (edwin@homemail.example) has asked for a brochure": a name with its address behind it. */
function beforeAddress(lines: readonly PageLine[]): Fact[] {
  for (const line of lines)
    for (const found of findEmails(line.text)) {
      const name = NAME_BEFORE.exec(line.text.slice(0, found.start))?.[1] ?? '';
      if (!isPersonName(name)) continue;
      const start = line.start + line.text.lastIndexOf(name, found.start);
      const at = (from: number, length: number): NonNullable<Fact['at']> => ({
        part: 'text',
        start: from,
        end: from + length,
      });
      return [
        { field: 'fullName', value: name, origin: 'page text', at: at(start, name.length) },
        {
          field: 'email',
          value: found.value,
          origin: 'page text',
          at: at(line.start + found.start, found.value.length),
        },
      ];
    }
  return [];
}

/** An address, and the name in the message that it is made of: "Answer Maria at maria.sandoval@…", after "Maria Sandoval wants …". */
function fittingAddress(lines: readonly PageLine[], text: string): Fact[] {
  const names = [...text.slice(0, LONGEST_TEXT).matchAll(TWO_WORDS)]
    .map(([, name = '']) => name)
    .filter(isPersonName);
  for (const line of lines)
    for (const found of findEmails(line.text)) {
      const name = names.find((one) => spellsLocalPart(one, localPart(found.value)));
      if (name)
        return [
          { field: 'fullName', value: name, origin: 'page text' },
          { field: 'email', value: found.value, origin: 'page text' },
        ];
    }
  return [];
}

const hasContact = (facts: readonly Fact[]): boolean =>
  facts.some((fact) => fact.field === 'email' || fact.field === 'phone');

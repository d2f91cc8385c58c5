import { matchesOf } from '../matches';
import { alternatives } from '../../words/compile';
import { companyFitsDomain } from '../../people/companies';
import { findEmails } from '../../people/emails';
import { parseName } from '../../people/names';
import type { Line } from '../email/layers';
import type { Claim } from '../types';
import { tellRoles } from './roles';
import type { Knowledge } from './scores';

/** Small letters match capitals too; the `i` flag cannot be used where capitals themselves are the evidence. */
const anyCase = (words: string): string =>
  words.replace(/\p{Ll}/gu, (letter) => `[${letter}${letter.toUpperCase()}]`);
/** A capital that begins a clause of its own is no part of a firm's name: "Tadlock Joinery and I'm after …". */
const CLAUSE = `(?:I|We|You|He|She|They|My|Our|Ich|Wir|Je|Nous|Our)(?![\\p{L}\\d])`;
const FIRM = `(?:[Tt]he\\s+)?(?!${CLAUSE})\\p{Lu}[\\p{L}\\d&'’-]*(?:\\s+(?:&|and|und|et|e|y|de|da|do|of|(?!${CLAUSE})\\p{Lu}[\\p{L}\\d&'’-]*)){0,4}`;
const I_AM =
  "my name is|this is|i am|i'm|i’m|mein name ist|ich bin|ich heiße|je m'appelle|je suis|chamo-me|o meu nome é|me llamo|mi nombre es|mijn naam is|ik ben|mi chiamo";
const I_WORK_AS = "i am|i'm|i’m|i work as|ich bin|je suis|sou|soy|ik ben|sono";
const WE_ARE =
  "i run|i own|we are|we're|i work at|i work for|i'm from|i am from|writing from|writing on behalf of|on behalf of|here at|ich arbeite bei|wir sind|nous sommes|somos|somos a|wij zijn|siamo";
const LEAVES = new RegExp(String.raw`(?<=[.!?…]\s)\p{Lu}(?=\p{Ll})`, 'gu');
/** Cheap to look for; most lines introduce nobody. */
const INTRODUCES = new RegExp(`${I_AM}|${I_WORK_AS}|${WE_ARE}`, 'iu');
const INTRO_NAME = new RegExp(
  `(?<!\\p{L})(?:${anyCase(I_AM)})\\s+(\\p{Lu}[\\p{L}'’-]+(?:\\s+(?:\\p{Lu}[\\p{L}'’-]+|van|von|de|da|der|den|dos|di)){1,3})(?:\\s+(?:from|of|at|with|von|bei|vom|de|van|di)\\s+(${FIRM}))?`,
  'gu',
);
const INTRO_ROLE = new RegExp(
  `(?<!\\p{L})(?:${anyCase(I_WORK_AS)})\\s+(?:(?:the|a|an|die|der|das|le|la|o|el|de|il)\\s+)?([\\p{L}][\\p{L} &-]{2,38}?)\\s+(?:at|of|for|with|bei|beim|von|vom|chez|de|du|des|del|della|da|do|bij|van|presso|en)\\s+(${FIRM})`,
  'gu',
);
const INTRO_FIRM = new RegExp(`(?<!\\p{L})(?:${anyCase(WE_ARE)})\\s+(${FIRM})`, 'gu');

const trimFirm = (firm: string): string =>
  firm.replace(/[.,;:]+$/, '').replace(/\s+(?:&|and|und|et|e|y|de|da|do|of)$/i, '');

/** "… sell a trailer with a tap? Thanks, Robin": a name at the end of what is said, behind words that take leave. */
const SIGNED_WITHIN = new RegExp(
  String.raw`(?:^|[.!?…]\s+)(?:${alternatives('valediction')}),?\s+(\p{Lu}\p{Ll}+(?:\s+\p{Lu}\p{Ll}+)?)\s*$`,
  'u',
);

/** The name that ends the last line of what somebody says, where nothing is signed below it. */
export function signedWithin(body: readonly Line[]): Claim[] {
  const last = body.findLast((line) => line.text.trim());
  const text = last?.text ?? '';
  const name =
    text.length < 2000
      ? (SIGNED_WITHIN.exec(text.replace(LEAVES, (word) => word.toLowerCase()))?.[1] ?? '')
      : '';
  if (!last || !name) return [];
  const start = last.start + text.lastIndexOf(name);
  return [
    {
      field: 'fullName',
      value: name,
      confidence: 0.75,
      span: { part: 'text', start, end: start + name.length },
      source: 'how they take leave',
    },
  ];
}

/** What senders say of themselves in running text: "I'm the head baker at Coral Crumb". Used where the signature is silent. */
export function readIntroduction(body: readonly Line[], know: Knowledge): Claim[] {
  const claims: Claim[] = [];
  const add = (claim: Claim): void => {
    if (!claims.some((one) => one.field === claim.field)) claims.push(claim);
  };
  for (const line of body.slice(0, 60)) {
    if (line.text.length > 1500 || !INTRODUCES.test(line.text)) continue;
    const claim = (field: Claim['field'], value: string, at: number, confidence: number): Claim => ({
      field,
      value,
      confidence,
      span: { part: 'text', start: line.start + at, end: line.start + at + value.length },
      source: 'how they introduce themselves',
    });
    for (const match of matchesOf(INTRO_NAME, line.text)) {
      const [whole, name = '', firm] = match;
      add(claim('fullName', name, match.index + whole.indexOf(name), know.name ? 0.5 : 0.8));
      if (firm) add(claim('companyName', trimFirm(firm), match.index + whole.lastIndexOf(firm), 0.8));
    }
    for (const match of matchesOf(INTRO_ROLE, line.text)) {
      const [whole, role = '', firm = ''] = match;
      if (
        tellRoles([{ kind: 'text', value: role, start: 0, end: role.length, line: 0 }], know)[0]?.role !==
        'title'
      )
        continue;
      add(claim('jobTitle', role, match.index + whole.indexOf(role), 0.82));
      add(
        claim(
          'companyName',
          trimFirm(firm),
          match.index + whole.lastIndexOf(firm),
          know.domain && companyFitsDomain(firm, know.domain) ? 0.95 : 0.8,
        ),
      );
    }
    for (const match of matchesOf(INTRO_FIRM, line.text)) {
      const firm = trimFirm(match[1] ?? '');
      const fits = know.domain !== null && companyFitsDomain(firm, know.domain);
      if (fits || parseName(firm).fullName.split(' ').length >= 2)
        add(claim('companyName', firm, match.index + match[0].indexOf(firm), fits ? 0.95 : 0.65));
    }
  }
  return claims.filter((claim) => !findEmails(claim.value).length);
}

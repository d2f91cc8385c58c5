import firmWords from './firmWords.json';
import { alternatives } from '../words/compile';
import { fold, rememberingLast, spelt, squash, tidy } from './text';

const LEGAL =
  `ltd limited plc llp llc inc incorporated corp corporation co company gmbh ag kg ohg gbr ug ek ev eg mbh
  sa sas sarl sasu eurl snc lda unipessoal sl slu sll bv nv vof cv bvba srl spa snc sapa ab hb as asa aps oy oyj
  pty pte kft zrt doo sro spzoo spj cic cio scop`.split(/\s+/);
const LEGAL_SET = new Set(LEGAL);

/** A legal form as people write it at the end of a firm's name, dots and all. */
export const LEGAL_FORM = new RegExp(
  String.raw`(?:^|[\s,])(?:${alternatives('legalForm')})\.?(?=$|[\s,|)])`,
  'iu',
);

/** Legal forms of scripts that put no space between words. */
const JOINED_FORM = new RegExp(alternatives('legalFormJoined'), 'u');

/** Words that firms and other bodies have in their names, folded, by language. */
const FIRM_WORDS = new Set(Object.values(firmWords).flatMap((words) => words.split(' ')));

/** How strongly a text looks like a firm's name in itself: 0 not at all, 1 has a legal form. */
export const companyLikeness = rememberingLast((text: string): number => {
  if (LEGAL_FORM.test(text) || JOINED_FORM.test(text)) return 1;
  const words = fold(text).split(' ');
  if (words.some((word) => FIRM_WORDS.has(word))) return 0.7;
  const last = words.at(-1) ?? '';
  if (
    /(?:backerei|baeckerei|kurier|logistik|werkstatt|bakkerij|bloemen|dienst|gesellschaft|bezorging|handel|betriebe)$/.test(
      last,
    )
  )
    return 0.7;
  return 0;
});

/** How people write "&" in a domain name. */
const AND_WORDS = ['', 'e', 'y', 'et', 'und', 'u', 'en', 'n', 'og', 'och', 'i', 'ed'];

/** Whether a firm's name and a domain belong together: `Padaria Sol, Lda.` with `padariasol.example`. */
export function companyFitsDomain(name: string, domain: string): boolean {
  return (
    isWrittenAs(name, domain) || (spelt(name) !== name.toLowerCase() && isWrittenAs(spelt(name), domain))
  );
}

function isWrittenAs(name: string, domain: string): boolean {
  const label = squash(domain.split('.')[0] ?? '');
  const bare = companyKey(name);
  const joined = bare.replace(/ /g, '');
  if (label.length < 2 || joined.length < 2) return false;
  if (label === joined || label === squash(name)) return true;
  if (
    name.includes('&') &&
    AND_WORDS.some((and) => label === squash(companyKey(name.replace(/\s*&\s*/g, ` ${and} `))))
  )
    return true;
  if (joined.length >= 4 && (label.startsWith(joined) || joined.startsWith(label)) && label.length >= 4)
    return true;
  const words = bare.split(' ');
  const initials = words.map((word) => word[0] ?? '').join('');
  if (initials.length >= 3 && initials === label) return true;
  if (label.length >= 5 && joined.includes(label)) return true;
  if (isClipped(label, words)) return true;
  const shared = words.filter((word) => word.length >= 4 && label.includes(word));
  return shared.length > 0 && shared.join('').length >= Math.min(label.length * 0.6, joined.length);
}

/** Whether a label is made of the beginnings of several words in their order: `cranevets` of Crane Veterinary Surgery. */
function isClipped(label: string, words: readonly string[]): boolean {
  let rest = label;
  let used = 0;
  let longest = 0;
  for (const word of words) {
    let length = 0;
    while (length < word.length && word[length] === rest[length]) length++;
    if (length < 2) continue;
    rest = rest.slice(length);
    used++;
    longest = Math.max(longest, length);
  }
  return used >= 2 && longest >= 4 && (rest === '' || rest === 's');
}

/** Whether a text is the domain's own label written out, with or without spaces. */
export function isDomainLabel(text: string, domain: string): boolean {
  const label = squash(domain.split('.')[0] ?? '');
  return squash(text) === label || squash(spelt(text)) === label;
}

/**
 * The key under which a firm is found however it is written: folded, legal form and leading article removed.
 * `The Padaria Sol, Lda.` gives `padaria sol`. A name that is nothing but a legal form keeps it.
 */
export function companyKey(name: string): string {
  const plain = name
    .replace(/\b(\p{L})\.(?=\s?\p{L}\.?(?:\s|$|\.))/gu, '$1')
    .replace(/\b([A-Z])\.\s?/g, '$1');
  const words = fold(plain.replace(/&/g, ' and ')).split(' ');
  let end = words.length;
  while (end > 1 && (LEGAL_SET.has(words[end - 1] ?? '') || (words[end - 1] === 'and' && end > 1))) end--;
  const start = end > 1 && ['the', 'die', 'der', 'das'].includes(words[0] ?? '') ? 1 : 0;
  return words.slice(start, end).join(' ');
}

/** A readable firm's name for a domain nobody has named: `long-bikes.example` gives `Long Bikes`. */
export function companyNameFromDomain(domain: string): string {
  return tidy((domain.split('.')[0] ?? '').replace(/[-_]+/g, ' ')).replace(
    /(^|\s)(\p{L})/gu,
    (_, space: string, letter: string) => space + letter.toUpperCase(),
  );
}

import { findEmails } from '../../people/emails';
import { nameOverlap } from '../../people/names';
import { titleLikeness } from '../signature/words';
import type { Listed } from '../types';
import type { Outline } from './outline';
import { readHeadline } from './headline';
import { isPersonName } from './names';

const MOST = 300;
const FEWEST = 3;
/** How much behind a name may belong to it. */
const BEHIND = 240;

const absolute = (href: string, base: string): string | null =>
  URL.canParse(href, base || undefined) ? new URL(href, base || undefined).href : null;

function listedFrom(names: readonly { text: string; href?: string }[], text: string, url: string): Listed[] {
  const listed: Listed[] = [];
  const people = names.filter((name) => isPersonName(name.text));
  let from = 0;
  for (const [index, one] of people.entries()) {
    if (listed.length >= MOST) break;
    const at = text.indexOf(one.text, from);
    if (at < 0 || listed.some((other) => nameOverlap(other.name, one.text) === 1)) continue;
    from = at + one.text.length;
    const next = people[index + 1] ? text.indexOf(people[index + 1]?.text ?? '', from) : -1;
    const stretch = text.slice(from, Math.min(from + BEHIND, next < 0 ? Infinity : next));
    const lines = stretch.split('\n').map((line) => line.replace(/^[\s,·|–—-]+/, '').trim());
    const line = lines.find((other) => other.length > 2) ?? '';
    const both = readHeadline(line);
    listed.push({
      name: one.text,
      url: one.href ? absolute(one.href, url) : null,
      jobTitle: both?.jobTitle ?? (titleLikeness(line) > 0 ? line : ''),
      companyName: both?.companyName ?? '',
      email: findEmails(stretch)[0]?.value ?? null,
      phone: null,
    });
  }
  return listed.length >= FEWEST ? listed : [];
}

/**
 * The people of a list that carries no data: links whose words are names, or else headings that are, as team pages have
 * them, with the title, firm and address that stand behind each.
 */
export function readPlainList(outline: Outline, text: string, url: string): Listed[] {
  const linked = listedFrom(outline.links, text, url);
  return linked.length ? linked : listedFrom(outline.headings, text, url);
}

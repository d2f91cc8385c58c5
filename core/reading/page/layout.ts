import { walkHtml } from '../html';
import type { Place } from '../parsing';

/**
 * What part of a page a line stands in: what it is about; what belongs to the site (banner, navigation, foot, notices); or what
 * is about somebody else (adverts, reviews, "people also viewed").
 */
export type Region = 'main' | 'site' | 'aside';

/** One line of a page as it is shown. */
export interface PageLine {
  text: string;
  /** Where it begins in the text of the page. */
  start: number;
  region: Region;
  /** The level of the heading it stands in, or 0. */
  level: number;
  /** What the classes of its element say it holds. */
  hint: 'jobTitle' | 'companyName' | null;
}

export interface Layout {
  text: string;
  lines: PageLine[];
  /** The lines that are looked into: a long page says who it is of in its first, and whose it is in its last. */
  read: PageLine[];
  links: LaidLink[];
}

const MOST_LINES = 20_000;
const MOST_LINKS = 1000;
const [FIRST, LAST] = [400, 100];
const SITE_TAGS = new Set(['nav', 'footer']);
const ASIDE_TAGS = new Set(['aside', 'blockquote']);
const SITE_ROLES = new Set([
  'banner',
  'navigation',
  'contentinfo',
  'dialog',
  'search',
  'alertdialog',
  'menu',
]);
/** How sites name the parts that are on every page. Common practice. */
const SITE_NAMES =
  /(?:^|[\s_-])(?:(?:site|page|global|main|top)?[-_]?(?:footer|foot|topbar|top-bar|navbar|nav|navigation|menu|masthead|banner|cookies?|consent|breadcrumbs?|newsletter|subscribe|hotline|help-?line|chat|bubble|popup|modal|overlay|toolbar|login|signin|legal|copyright|imprint-line|utility)|(?:site|page|global|top)[-_]?(?:header|head|bar))(?:$|[\s_-])/i;
const ASIDE_NAMES =
  /(?:^|[\s_-])(?:ad|ads|advert|adverts|advertisement|advertising|sponsor|sponsored|promo|promotion|related|recommended|recommendations|similar|also-?viewed|suggestions?|testimonials?|reviews?|comments?|sidebar|press|quote)(?:$|[\s_-])/i;

/** Words of a class that say what a part is beside, or how a whole page is laid out. */
const BESIDE = /(?:^|\s)(?:with|has|no|is|js|layout|page|theme|template)[-_]\S*/gi;
const ABOUT_THEM = /contact|profile|vcard|h-card|details|person|staff|agent|bio\b/i;
/** Classes by which sites mark up a post and a firm. Common practice. */
const POST_CLASS =
  /(?:^|[\s_-])(?:job-?title|jobtitle|role|position|occupation|rolle|funktion|poste|fonction|cargo|puesto|ruolo|functie|befattning)(?:$|[\s_-])/i;
const FIRM_CLASS =
  /(?:^|[\s_-])(?:company(?:-?name)?|org|organi[sz]ation|employer|firma|societe|empresa|bedrijf)(?:$|[\s_-])/i;

function hintOf({ class: classes = '' }: Record<string, string>): PageLine['hint'] {
  if (!classes || classes.length > 200) return null;
  if (POST_CLASS.test(classes)) return 'jobTitle';
  return FIRM_CLASS.test(classes) ? 'companyName' : null;
}

const WHOLE = new Set(['html', 'body', 'main', 'article']);

function regionOf(name: string, attributes: Record<string, string>): Region | null {
  if (WHOLE.has(name)) return null;
  if (SITE_TAGS.has(name)) return 'site';
  const { role = '', class: classes = '', id = '' } = attributes;
  const named = `${classes} ${id}`.slice(0, 300).replace(BESIDE, ' ');
  if (ABOUT_THEM.test(named) && name !== 'blockquote') return null;
  if (ASIDE_TAGS.has(name)) return 'aside';
  if (SITE_ROLES.has(role)) return 'site';
  if (role === 'complementary') return 'aside';
  if (ASIDE_NAMES.test(named)) return 'aside';
  if (SITE_NAMES.test(named) || (name !== 'main' && /^(?:header|footer)$/i.test(id))) return 'site';
  return null;
}

/** A link of a page, and the line it stands in. */
export interface LaidLink {
  href: string;
  rel: string;
  region: Region;
  /** The number of its line. */
  line: number;
  /** The stretch of the document its tag takes. */
  at: Place;
}

interface Open {
  region: Region;
  level: number;
  hint: PageLine['hint'];
  /** The lines that began in a header, which is the site's unless what the page is about heads it. */
  header: number | null;
}
const OUTSIDE: Open = { region: 'main', level: 0, hint: null, header: null };

/**
 * The text of a page, as `textOfHtml` gives it, in lines that know where on the page they stand.
 * @param isSubject whether a heading names what the page is about: the header that holds it is no banner
 */
export function layoutOf(html: string, isSubject: (heading: string) => boolean): Layout {
  const pieces: string[] = [];
  const lines: PageLine[] = [];
  const links: LaidLink[] = [];
  const stack: Open[] = [];
  let length = 0;
  let line: PageLine | null = null;
  const now = (): Open => stack.at(-1) ?? OUTSIDE;
  const put = (text: string): void => {
    pieces.push(text);
    if (text.trim()) {
      const { region, level, hint } = now();
      line ??= { text: '', start: length, region, level, hint };
      if (region === 'main' && line.region !== 'main' && !line.text.trim()) line.region = 'main';
      line.level ||= level;
    }
    if (line) line.text += text;
    length += text.length;
  };
  const end = (): void => {
    if (line && lines.length < MOST_LINES) lines.push(line);
    line = null;
  };
  const breakLine = (text: string): void => {
    if (text.includes('\n')) end();
    pieces.push(text);
    length += text.length;
    if (line) line.text += text;
  };
  walkHtml(html, {
    onText(text) {
      const parts = text.split('\n');
      for (const [index, part] of parts.entries()) {
        if (index > 0) breakLine('\n');
        if (part) put(part);
      }
    },
    onBreak: breakLine,
    onOpen(name, attributes, at) {
      const above = now();
      if (name === 'a' && attributes.href && links.length < MOST_LINKS)
        links.push({
          href: attributes.href,
          rel: attributes.rel ?? '',
          region: above.region,
          line: lines.length,
          at,
        });
      const own = regionOf(name, attributes);
      const level = /^h[1-6]$/.test(name) ? Number(name[1]) : above.level;
      const isBanner = name === 'header' && above.region === 'main';
      stack.push({
        region: above.region === 'main' ? (own ?? (isBanner ? 'site' : 'main')) : above.region,
        level,
        hint: hintOf(attributes),
        header: isBanner ? lines.length : null,
      });
    },
    onClose() {
      const { header } = stack.pop() ?? OUTSIDE;
      if (header === null) return;
      const inside = line ? [...lines.slice(header), line] : lines.slice(header);
      if (inside.some((one) => one.level > 0 && isSubject(one.text)))
        for (const one of [...inside, ...links.filter((link) => link.line >= header)]) one.region = 'main';
    },
  });
  end();
  // A page that is nothing but banner and foot is read as a whole.
  if (!lines.some((one) => one.region === 'main')) for (const one of lines) one.region = 'main';
  const read = lines.length > FIRST + LAST ? [...lines.slice(0, FIRST), ...lines.slice(-LAST)] : lines;
  return { text: pieces.join(''), lines, read, links };
}

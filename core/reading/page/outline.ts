import { Parser } from 'htmlparser2';
import { tidy } from '../../people/text';

/** A piece of a document with the stretch of its source it came from. */
export interface Sourced {
  text: string;
  start: number;
  end: number;
}
export interface PageLink extends Sourced {
  href: string;
  rel: string;
}

/** What a page is made of, as far as a reader of people needs it. */
export interface Outline {
  title: string;
  language: string;
  canonical: string;
  /** `og:title` and the like, by lower-case name. */
  meta: Map<string, Sourced>;
  /** The text of each `application/ld+json` script. */
  data: Sourced[];
  headings: (Sourced & { level: number })[];
  links: PageLink[];
  /** Text of `address` elements. */
  addresses: Sourced[];
  /** How deep its elements are nested. */
  depth: number;
}

/** How somebody is spoken of, beside a name: "Tobias Lindqvist (he/him)". */
export const PRONOUNS =
  /\s*\(?\b(?:she|he|they|sie|er|elle|il|ela|ele)\s?\/\s?\p{L}{2,5}(?:\s?\/\s?\p{L}{2,5})?\)?\s*$/iu;

const MOST = 5000;
const LONGEST = 400;
const BLOCKS = new Set('p div li br tr td th section article ul ol dd dt'.split(' '));

/** One streaming pass, so that no nesting can hurt it. Values keep where they stand in the source. */
export function outlineOf(html: string): Outline {
  const outline: Outline = {
    title: '',
    language: '',
    canonical: '',
    meta: new Map(),
    data: [],
    headings: [],
    links: [],
    addresses: [],
    depth: 0,
  };
  let depth = 0;
  let script: Sourced | null = null;
  let heading: (Sourced & { level: number }) | null = null;
  let link: PageLink | null = null;
  let address: Sourced | null = null;
  let inTitle = false;
  const open = (): (Sourced | null)[] => [heading, link, address];
  const close = (one: Sourced, end: number): void => {
    one.text = tidy(one.text);
    one.end = end;
  };
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        const { startIndex: start, endIndex: end } = parser;
        outline.depth = Math.max(outline.depth, ++depth);
        if (name === 'html') outline.language = (attributes.lang ?? '').slice(0, 2).toLowerCase();
        else if (name === 'title') inTitle = outline.title === '';
        else if (name === 'meta') {
          const key = (attributes.property ?? attributes.name ?? '').toLowerCase();
          const { content } = attributes;
          if (key && content && !outline.meta.has(key) && outline.meta.size < MOST)
            outline.meta.set(key, { text: tidy(content).slice(0, 2000), start, end: end + 1 });
        } else if (name === 'link' && /\bcanonical\b/i.test(attributes.rel ?? ''))
          outline.canonical = attributes.href ?? '';
        else if (name === 'script' && /ld\+json/i.test(attributes.type ?? ''))
          script = { text: '', start: end + 1, end: end + 1 };
        else if (/^h[1-4]$/.test(name)) heading = { text: '', start, end: start, level: Number(name[1]) };
        else if (name === 'a' && attributes.href)
          link = { text: '', start, end: start, href: attributes.href, rel: attributes.rel ?? '' };
        else if (name === 'address') address = { text: '', start, end: start };
        else if (BLOCKS.has(name)) for (const one of open()) if (one && one.text) one.text += ', ';
      },
      ontext(text) {
        if (script) script.text += text;
        else if (inTitle) outline.title += text;
        else
          for (const one of open())
            if (one && one.text.length < LONGEST) one.text += text.replace(/\s+/g, ' ');
      },
      onclosetag(name) {
        depth--;
        const end = parser.endIndex + 1;
        if (name === 'title') inTitle = false;
        else if (name === 'script' && script) {
          script.end = parser.startIndex;
          if (outline.data.length < 50) outline.data.push(script);
          script = null;
        } else if (/^h[1-4]$/.test(name) && heading) {
          close(heading, end);
          heading.text = heading.text.replace(PRONOUNS, '');
          if (heading.text && outline.headings.length < MOST) outline.headings.push(heading);
          heading = null;
        } else if (name === 'a' && link) {
          close(link, end);
          if (outline.links.length < MOST) outline.links.push(link);
          link = null;
        } else if (name === 'address' && address) {
          close(address, end);
          address.text = address.text.replace(/(?:\s*,\s*)+/g, ', ').replace(/^, |, $/g, '');
          outline.addresses.push(address);
          address = null;
        }
      },
    },
    { decodeEntities: true, lowerCaseTags: true, lowerCaseAttributeNames: true },
  );
  parser.write(html);
  parser.end();
  outline.title = tidy(outline.title);
  return outline;
}

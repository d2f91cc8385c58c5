import { tidy } from '../../people/text';
import { parseHtml } from '../parsing';

/** A piece of a document with the stretch of its source it came from. */
export interface Sourced {
  text: string;
  start: number;
  end: number;
}
export interface PageLink extends Sourced {
  href: string;
}

/** What a page is made of, as far as a reader of people needs it. */
export interface Outline {
  title: string;
  /** Its language as a tag of BCP 47, which may name a region: `en-AU`. */
  language: string;
  /** `og:title` and the like, by lower-case name. */
  meta: Map<string, Sourced>;
  /** The text of each `application/ld+json` script. */
  data: Sourced[];
  headings: (Sourced & { level: number })[];
  links: PageLink[];
  /** How deep its elements are nested. */
  depth: number;
  /** Where its first thousand microformats end: a parser of them takes longer with the square of their number. */
  cardsEnd: number;
}

/** How somebody is spoken of, beside a name: "Tobias Lindqvist (he/him)". */
export const PRONOUNS =
  /\s*\(?\b(?:she|he|they|sie|er|elle|il|ela|ele)\s?\/\s?\p{L}{2,5}(?:\s?\/\s?\p{L}{2,5})?\)?\s*$/iu;

const MOST = 5000;
const MOST_CARDS = 1000;
const LONGEST = 400;
const BLOCKS = new Set('p div li br tr td th section article ul ol dd dt'.split(' '));

/** One streaming pass, so that no nesting can hurt it. Values keep where they stand in the source. */
export function outlineOf(html: string): Outline {
  const outline: Outline = {
    title: '',
    language: '',
    meta: new Map(),
    data: [],
    headings: [],
    links: [],
    depth: 0,
    cardsEnd: html.length,
  };
  let depth = 0;
  let cards = 0;
  let script: Sourced | null = null;
  let heading: (Sourced & { level: number }) | null = null;
  let link: PageLink | null = null;
  let inTitle = false;
  const open = (): (Sourced | null)[] => [heading, link];
  const close = (one: Sourced, end: number): void => {
    one.text = tidy(one.text);
    one.end = end;
  };
  parseHtml(html, (at) => ({
    onopentag(name, attributes) {
      const { start, end } = at();
      outline.depth = Math.max(outline.depth, ++depth);
      if (/(?:^|\s)h-[a-z]/.test(attributes.class ?? '') && cards++ === MOST_CARDS) outline.cardsEnd = start;
      if (name === 'html') outline.language = (attributes.lang ?? '').slice(0, 20);
      else if (name === 'title') inTitle = outline.title === '';
      else if (name === 'meta') {
        const key = (attributes.property ?? attributes.name ?? '').toLowerCase();
        const { content } = attributes;
        if (key && content && !outline.meta.has(key) && outline.meta.size < MOST)
          outline.meta.set(key, { text: tidy(content).slice(0, 2000), start, end });
      } else if (name === 'script' && /ld\+json/i.test(attributes.type ?? ''))
        script = { text: '', start: end, end };
      else if (/^h[1-4]$/.test(name)) heading = { text: '', start, end: start, level: Number(name[1]) };
      else if (name === 'a' && attributes.href) link = { text: '', start, end: start, href: attributes.href };
      else if (BLOCKS.has(name)) for (const one of open()) if (one && one.text) one.text += ', ';
    },
    ontext(text) {
      if (script) script.text += text;
      else if (inTitle) outline.title += text;
      else
        for (const one of open()) if (one && one.text.length < LONGEST) one.text += text.replace(/\s+/g, ' ');
    },
    onclosetag(name) {
      depth--;
      const { start, end } = at();
      if (name === 'title') inTitle = false;
      else if (name === 'script' && script) {
        script.end = start;
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
      }
    },
  }));
  outline.title = tidy(outline.title);
  return outline;
}

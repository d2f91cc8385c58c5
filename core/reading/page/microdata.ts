import { tidy } from '../../people/text';
import { parseHtml } from '../parsing';

/** A thing that the attributes of a page describe, in the form JSON-LD has: `@type` and its properties. */
export interface Described {
  [property: string]: string | (string | Described)[];
}

interface Open {
  thing: Described | null;
  /** The properties whose value is the text of this element. */
  properties: string[];
  text: string;
  owner: Described | null;
}

const MOST_THINGS = 500;
const LONGEST = 400;
/** Properties that are words, even on a link: a name that leads to a page is a name. */
const WORDS =
  /^(?:name|givenName|familyName|jobTitle|legalName|roleName|addressLocality|streetAddress|postalCode|addressRegion)$/;

const bare = (type: string): string =>
  type
    .trim()
    .split(/\s+/)
    .map((one) => one.replace(/^.*[/#:]/, ''))[0] ?? '';

/** The value an element has of itself, by the HTML Standard, "5.2.4 Values"; null where it is the element's text. */
function valueOf(name: string, attributes: Record<string, string>, property: string): string | null {
  if (attributes.content !== undefined) return attributes.content;
  if (name === 'meta') return '';
  if (WORDS.test(property)) return null;
  if (['a', 'area', 'link'].includes(name)) return attributes.href ?? null;
  if (['img', 'audio', 'embed', 'iframe', 'source', 'track', 'video'].includes(name))
    return attributes.src ?? '';
  if (name === 'object') return attributes.data ?? '';
  if (name === 'data' || name === 'meter') return attributes.value ?? null;
  return name === 'time' ? (attributes.datetime ?? null) : null;
}

/**
 * The things a page describes by attributes: microdata (HTML Standard, section 5) and RDFa Lite 1.1 (`typeof`, `property`).
 * One streaming pass; what is not within a thing is left out.
 */
export function readMicrodata(html: string): Described[] {
  const things: Described[] = [];
  if (!/\b(?:itemscope|typeof)\b/i.test(html)) return things;
  let made = 0;
  const stack: Open[] = [];
  const around = (): Described | null => stack.findLast((open) => open.thing)?.thing ?? null;
  const add = (owner: Described, property: string, value: string | Described): void => {
    const values = (owner[property] ??= []);
    if (Array.isArray(values) && values.length < 50) values.push(value);
  };
  parseHtml(html, () => ({
    onopentag(name, attributes) {
      const owner = around();
      const isThing = attributes.itemscope !== undefined || attributes.typeof !== undefined;
      const named = attributes.itemprop ?? (owner || isThing ? attributes.property : undefined) ?? '';
      const properties = named.split(/\s+/).filter(Boolean).map(bare);
      const open: Open = { thing: null, properties: [], text: '', owner };
      if (isThing && made < MOST_THINGS) {
        made++;
        open.thing = { '@type': bare(attributes.itemtype ?? attributes.typeof ?? '') };
        const id = attributes.itemid ?? attributes.resource;
        if (id) open.thing['@id'] = id;
        if (owner && properties.length) for (const property of properties) add(owner, property, open.thing);
        else things.push(open.thing);
      } else if (owner)
        for (const property of properties) {
          const value = valueOf(name, attributes, property);
          if (value === null) open.properties.push(property);
          else if (value) add(owner, property, tidy(value));
        }
      stack.push(open);
    },
    ontext(text) {
      for (let at = stack.length - 1; at >= 0; at--) {
        const open = stack[at];
        if (!open || open.thing) break;
        if (open.properties.length && open.text.length < LONGEST) open.text += text;
      }
    },
    onclosetag() {
      const open = stack.pop();
      if (!open?.owner) return;
      const text = tidy(open.text);
      if (text) for (const property of open.properties) add(open.owner, property, text);
    },
  }));
  return things;
}

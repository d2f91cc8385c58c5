import { Drop, Liquid, type Template } from 'liquidjs';
import { escapeText } from '../reading/html';
import type { MergeData, MergeField, MergeKind } from './mergeFields';

/** A template cannot be filled in as it stands; the message is for its writer. */
export class TemplateTrouble extends Error {}

export interface Filled {
  text: string;
  /** What the fields are called that were wanted and are empty, each once. */
  missing: string[];
}

/** As long as a letter gets. */
const MOST_CHARACTERS = 200_000;
/** Tags that read files, loop, or keep something from one letter for the next have no place in a letter. */
const TAGS = ['if', 'unless', 'case', 'comment', 'raw'] as const;
const FILTERS = ['default', 'upcase', 'downcase', 'capitalize', 'strip', 'append', 'prepend', 'replace'];

/** A field that is empty: nothing to a condition, and what a fallback replaces; written out it is missing. */
class Blank extends Drop {
  constructor(readonly path: string) {
    super();
  }
  override valueOf(): null {
    return null;
  }
}

function engineOf(escape: (value: unknown) => string): Liquid {
  const engine = new Liquid({
    outputEscape: escape,
    ownPropertyOnly: true,
    strictFilters: true,
    strictVariables: false,
    relativeReference: false,
    globals: {},
    parseLimit: MOST_CHARACTERS,
    renderLimit: 200,
    memoryLimit: 2_000_000,
    templates: {},
  });
  for (const name of Object.keys(engine.tags))
    if (!(TAGS as readonly string[]).includes(name)) Reflect.deleteProperty(engine.tags, name);
  for (const name of Object.keys(engine.filters))
    if (!FILTERS.includes(name)) Reflect.deleteProperty(engine.filters, name);
  return engine;
}

const reading = engineOf(String);

/** What is wrong, without the library's own words for where. */
const wordsFor = (error: unknown): string => {
  const said = error instanceof Error ? error.message : String(error);
  const [first = ''] = said.split('\n');
  const tag = /tag "(\w+)" not found/.exec(first)?.[1];
  if (tag) return `“{% ${tag} %}” cannot be used in a letter.`;
  const open = /tag \{% ?(\w+)[^%]*%\} not closed/.exec(first)?.[1];
  if (open) return `“{% ${open} %}” has no “{% end${open} %}”.`;
  const filter = /undefined filter: (\w+)/.exec(first)?.[1];
  if (filter) return `“| ${filter}” cannot be used in a letter.`;
  if (/limit exceeded/.test(first)) return 'This takes too much work to fill in.';
  return `This cannot be read as a template: ${first.replace(/, (?:line|file):.*$/, '')}.`;
};

/** Paths like `person.first_name` in a template, each once, whether or not a condition leads to them. */
function pathsIn(templates: Template[]): string[] {
  return [
    ...new Set(
      reading
        .globalVariableSegmentsSync(templates)
        .map((segments) => segments.filter((one) => typeof one !== 'object').join('.')),
    ),
  ];
}

function parse(source: string): Template[] {
  if (source.length > MOST_CHARACTERS) throw new TemplateTrouble('This is too long for a letter.');
  try {
    return reading.parse(source);
  } catch (error) {
    throw new TemplateTrouble(wordsFor(error));
  }
}

/**
 * What is wrong with a template, in sentences; nothing where it can be filled in.
 * @param fields all there are
 */
export function checkTemplate(source: string, fields: readonly MergeField[]): string[] {
  try {
    const known = new Set(fields.map(({ path }) => path));
    return pathsIn(parse(source))
      .filter((path) => !known.has(path))
      .map((path) => `There is no field “${path}”.`);
  } catch (error) {
    if (error instanceof TemplateTrouble) return [error.message];
    throw error;
  }
}

/** What a template reaches: the fields it names, and nothing else of any object. */
function scopeOf(data: MergeData, paths: readonly string[]): object {
  const scope: Record<string, Record<string, string | Blank>> = Object.create(null);
  for (const path of paths) {
    const [kind = '', name = ''] = path.split('.');
    const values: Readonly<Record<string, string>> =
      (Object.hasOwn(data, kind) ? data[kind as MergeKind] : null) ?? {};
    const value = Object.hasOwn(values, name) ? values[name] : '';
    (scope[kind] ??= Object.create(null) as Record<string, string | Blank>)[name] = value || new Blank(path);
  }
  return scope;
}

/**
 * Fills in a template. An empty field without a fallback stays as it is written, so that a reader sees the gap, and is
 * named in `missing`.
 * @param form `html` escapes what is filled in
 * @throws TemplateTrouble where the template cannot be read, or takes too much work
 */
export function fillTemplate(
  source: string,
  data: MergeData,
  fields: readonly MergeField[],
  form: 'html' | 'text',
): Filled {
  const wanted = pathsIn(parse(source));
  const missing = new Set<string>();
  const labels = new Map(fields.map(({ path, label }) => [path, label]));
  const engine = engineOf((value) => {
    if (value instanceof Blank) {
      missing.add(labels.get(value.path) ?? value.path);
      return `{{ ${value.path} }}`;
    }
    const text = value === null || value === undefined ? '' : String(value);
    // What somebody is called is never read as a template again.
    const plain = text.replaceAll('{{', '{ {').replaceAll('{%', '{ %');
    return form === 'html' ? escapeText(plain) : plain.replace(/[\r\n]+/g, ' ');
  });
  const scope = scopeOf(data, wanted);
  try {
    return { text: String(engine.parseAndRenderSync(source, scope)), missing: [...missing] };
  } catch (error) {
    throw new TemplateTrouble(wordsFor(error));
  }
}

const GAP = /\{\{\s*(\w+\.[\p{L}\p{N}_]+)[^{}]{0,200}\}\}|\{%[^{}]{0,200}%\}/gu;

/** What a letter still has to have filled in before it goes out, by the names of the fields. */
export const gapsIn = (text: string, fields: readonly MergeField[]): string[] => {
  const labels = new Map(fields.map(({ path, label }) => [path, label]));
  return [
    ...new Set([...text.matchAll(GAP)].map(([whole, path]) => (path ? (labels.get(path) ?? path) : whole))),
  ];
};

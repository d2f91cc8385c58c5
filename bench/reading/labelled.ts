import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** What a model learns from, what its confidence is fitted on, and what is only measured. */
export const PARTS = ['training', 'fitting', 'test'] as const;
export type Part = (typeof PARTS)[number];

export interface Label {
  field: string;
  value: string;
  type: string;
}
/** A labelled document of any kind: what a reader should find in it, and the thing itself. */
export interface LabelledDocument {
  id: string;
  language: string;
  /** Where a note was written, ISO 3166-1: how days are written there, and numbers without a country code. */
  country: string;
  /** Where a page stands. */
  url: string;
  labels: Label[];
  text: string;
}

/** The kinds of documents that are labelled; each has a folder. */
export const SETS = ['notes', 'pages', 'mails'] as const;
export type LabelledSet = (typeof SETS)[number];

const PLACE = join(process.cwd(), 'core/reading/labelled');

function labelOf(line: string): Label {
  const [, field = '', value = ''] = /^[@!] (\S+) (.+)$/.exec(line) ?? [];
  const phone = /^(\+\d+) (\w+)$/.exec(value);
  return { field, value: phone?.[1] ?? value, type: phone?.[2] ?? '' };
}

/**
 * The documents of a part: a heading `### id | language`, for notes `### id | country | language`; for pages a line
 * `url: …`; lines of `@ field value` and `! kind value`; then the document.
 */
export function loadLabelled(set: LabelledSet, part: Part): LabelledDocument[] {
  return readFileSync(join(PLACE, set, `${part}.txt`), 'utf8')
    .split(/^### /m)
    .slice(1)
    .map((section) => {
      const [head = '', ...lines] = section.split('\n');
      const [id = '', ...of] = head.split(' | ');
      const first = lines.findIndex((line) => !/^(?:[@!] |url: )/.test(line));
      const [heads, rest] = [lines.slice(0, first), lines.slice(first)];
      return {
        id,
        language: of.at(-1) ?? '',
        country: of.length > 1 ? (of[0] ?? '') : '',
        url: heads.find((line) => line.startsWith('url: '))?.slice(5) ?? '',
        labels: heads.filter((line) => /^[@!] /.test(line)).map(labelOf),
        text: rest.join('\n').trim(),
      };
    });
}

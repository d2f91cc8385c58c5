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
export interface LabelledNote {
  id: string;
  /** Where it was written, ISO 3166-1: how days are written there, and numbers without a country code. */
  country: string;
  language: string;
  labels: Label[];
  text: string;
}

const PLACE = join(process.cwd(), 'core/reading/labelled');

/** The notes of a part: `### id | country | language`, lines of `@ field value` and `! kind value`, then the note. */
export function loadNotes(part: Part): LabelledNote[] {
  return readFileSync(join(PLACE, 'notes', `${part}.txt`), 'utf8')
    .split(/^### /m)
    .slice(1)
    .map((section) => {
      const [head = '', ...lines] = section.split('\n');
      const [id = '', country = '', language = ''] = head.split(' | ');
      const isLabel = (line: string): boolean => /^[@!] /.test(line);
      const labels = lines.filter(isLabel).map((line): Label => {
        const [, field = '', value = ''] = /^[@!] (\S+) (.+)$/.exec(line) ?? [];
        const phone = /^(\+\d+) (\w+)$/.exec(value);
        return { field, value: phone?.[1] ?? value, type: phone?.[2] ?? '' };
      });
      return {
        id,
        country,
        language,
        labels,
        text: lines
          .filter((line) => !isLabel(line))
          .join('\n')
          .trim(),
      };
    });
}

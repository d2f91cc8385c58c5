import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { companyKey } from '../../people/companies';
import { fold } from '../../people/text';
import type { Claim } from '../types';

export interface Labelled {
  id: string;
  expected: { field: string; value: string; type: string }[];
  raw: Uint8Array;
}

/** Reads the labelled messages beside this file: `### title`, `@ field value` lines, then the message itself. */
export function loadCorpus(): Labelled[] {
  return readdirSync(__dirname)
    .filter((file) => file.endsWith('.txt'))
    .flatMap((file) =>
      readFileSync(join(__dirname, file), 'utf8')
        .split(/^### /m)
        .slice(1)
        .map((section) => {
          const [id = '', ...lines] = section.split('\n');
          const head = lines.findIndex((line) => !line.startsWith('@ '));
          const expected = lines.slice(0, head).map((line) => {
            const [, field = '', value = ''] = /^@ (\S+) (.+)$/.exec(line) ?? [];
            const phone = /^(\+\d+) (\w+)$/.exec(value);
            return field === 'phone'
              ? { field, value: phone?.[1] ?? value, type: phone?.[2] ?? '' }
              : { field, value, type: '' };
          });
          return { id, expected, raw: new TextEncoder().encode(lines.slice(head).join('\r\n')) };
        }),
    );
}

const bareUrl = (url: string): string =>
  url
    .toLowerCase()
    .replace(/^https?:\/\//, '')
    .replace(/^www\./, '')
    .replace(/\/$/, '');

/** Whether a claim says what a label says; phones must agree in number and kind. */
export function agrees(claim: Claim, label: { field: string; value: string; type: string }): boolean {
  if (claim.field !== label.field) return false;
  if (claim.field === 'phone') return claim.normalized === label.value && claim.type === label.type;
  if (claim.field === 'email') return claim.value.toLowerCase() === label.value.toLowerCase();
  if (claim.field === 'url' || claim.field === 'profile')
    return bareUrl(claim.value) === bareUrl(label.value);
  if (claim.field === 'companyName') return companyKey(claim.value) === companyKey(label.value);
  return fold(claim.value) === fold(label.value);
}

export interface Tally {
  right: number;
  claimed: number;
  expected: number;
}

/** The harmonic mean of precision and recall; 1 when nothing was expected and nothing claimed. */
export const f1 = ({ right, claimed, expected }: Tally): number =>
  claimed + expected === 0 ? 1 : (2 * right) / (claimed + expected);

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { agrees, f1, type Tally } from '../../corpus/corpus';
import { readPage } from '../read';

/** The labelled pages: `url:`, `@ field value` lines, then the document. */
const pages = readFileSync(join(__dirname, 'pages.txt'), 'utf8')
  .split(/^### /m)
  .slice(1)
  .map((section) => {
    const [id = '', url = '', ...lines] = section.split('\n');
    return {
      id,
      url: url.replace(/^url: /, ''),
      expected: lines.flatMap((line) => {
        const [, field = '', value = ''] = /^@ (\S+) (.+)$/.exec(line) ?? [];
        const phone = /^(\+\d+) (\w+)$/.exec(value);
        return field ? [{ field, value: phone?.[1] ?? value, type: phone?.[2] ?? '' }] : [];
      }),
      html: lines.filter((line) => !line.startsWith('@ ')).join('\n'),
    };
  });

describe('the labelled pages', () => {
  const tally: Tally = { right: 0, claimed: 0, expected: 0 };
  const misses: string[] = [];
  for (const { id, url, expected, html } of pages) {
    const { claims } = readPage(html, { url, ourPeople: ['Pell Garrick'] });
    tally.expected += expected.length;
    tally.claimed += claims.length;
    for (const label of expected)
      if (claims.some((claim) => agrees(claim, label))) tally.right++;
      else misses.push(`${id}: missing ${label.field} ${label.value}`);
    for (const claim of claims)
      if (!expected.some((label) => agrees(claim, label)))
        misses.push(`${id}: wrong ${claim.field} ${claim.normalized ?? claim.value}`);
  }
  if (process.env.SHOW_MISSES) process.stderr.write(`${misses.join('\n')}\n`);

  it('are thirty', () => expect(pages).toHaveLength(30));
  it('give their facts with an F1 of at least 0.93', () => expect(f1(tally)).toBeGreaterThanOrEqual(0.93));
  it('say where each claim stands, in the text or in the source', () => {
    for (const { url, html } of pages) {
      const { claims, message } = readPage(html, { url });
      for (const { span, value, field } of claims)
        if (span && field !== 'address') {
          const text = span.part === 'source' ? html : message.text;
          expect(text.slice(span.start, span.end)).toContain(value.replace(/^https?:\/\//, '').slice(0, 6));
        }
    }
  });
});

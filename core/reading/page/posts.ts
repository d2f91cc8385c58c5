import { alternatives } from '../../words/compile';
import type { Fact } from './facts';
import { readHeadline } from './headline';
import type { PageLine } from './layout';

const NOW = String.raw`(?:${alternatives('untilNow')})`;
/** "2019 – present", "03/2019 - heute", "seit 2018". */
const RUNS = new RegExp(
  String.raw`(?:19|20)\d{2}\s*(?:[–—-]|to|bis|à|a|al|tot|till|til)\s*${NOW}|(?<!\p{L})(?:since|seit|depuis|desde|dal|sinds|sedan|siden|od|с|από)\s+(?:\p{L}+\s+)?(?:19|20)\d{2}|(?:19|20)\d{2}\s*[–—-]\s*$`,
  'iu',
);
/** "2014 – 2019". */
const RAN = /(?:19|20)\d{2}\s*(?:[–—-]|to|bis|à|tot|till|til)\s*(?:\p{L}+\.?\s+)?(?:19|20)\d{2}/iu;
/** A post stands in so many lines before its years. */
const BEFORE = 3;

/**
 * The post somebody has now, in a list of those they had: the one whose years run on.
 * @param host the domain the page stands at
 */
export function currentPost(lines: readonly PageLine[], host: string | null): Fact[] {
  for (const [index, line] of lines.entries()) {
    if (!RUNS.test(line.text) || line.text.length > 160) continue;
    const before: PageLine[] = [];
    for (let at = index - 1; at >= 0 && before.length < BEFORE; at--) {
      const above = lines[at];
      if (!above || above.level === 1 || RAN.test(above.text) || RUNS.test(above.text)) break;
      before.unshift(above);
    }
    const own = line.text.replace(RUNS, '').replace(/[\s,;:()|·•–—-]+$|^[\s,;:()|·•–—-]+/g, '');
    const facts = postIn([...before, ...(own.length > 3 ? [{ ...line, text: own }] : [])], host);
    if (facts.length) return facts;
  }
  return [];
}

function postIn(lines: readonly PageLine[], host: string | null): Fact[] {
  for (const [index, line] of lines.entries()) {
    const read = readHeadline(line.text.trim(), host);
    if (!read?.jobTitle) continue;
    const fact = (field: Fact['field'], value: string, from: PageLine): Fact => {
      const start = from.start + Math.max(0, from.text.indexOf(value));
      return { field, value, origin: 'page text', at: { part: 'text', start, end: start + value.length } };
    };
    const beside = [lines[index + 1], lines[index - 1]].find(
      (one) => one && one.level === 0 && /^[\p{Lu}\p{Lo}\d]/u.test(one.text.trim()) && one.text.length < 60,
    );
    const post = fact('jobTitle', read.jobTitle, line);
    if (read.companyName) return [post, fact('companyName', read.companyName, line)];
    return beside ? [post, fact('companyName', beside.text.trim(), beside)] : [post];
  }
  return [];
}

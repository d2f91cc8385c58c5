/** Nobody's page is nested so deep; what is, is meant to hold a parser up, which pays for each level with every tag. */
const DEEPEST = 200;
/** Elements whose end tag is often left out: most of them close each other, so that many open ones mean little. */
const LOOSE = new Set('p li dt dd tr td th thead tbody tfoot option optgroup colgroup'.split(' '));
const MOST_LOOSE = 10_000;
const VOID = new Set('br hr img input meta link area base col embed source track wbr'.split(' '));

/**
 * A document without the tags that nest deeper than 200: they become white space, so that every offset stays as it is.
 * One pass; a document that is nested like others comes back as it went in.
 */
export function boundNesting(html: string): string {
  const blanks: [start: number, end: number][] = [];
  let [depth, loose, dropped] = [0, 0, 0];
  for (const { index, 0: tag, 1: slash, 2: written = '' } of html.matchAll(
    /<(\/?)([a-zA-Z][\w:-]{0,40})[^<>]{0,20000}>?/g,
  )) {
    const name = written.toLowerCase();
    if (VOID.has(name) || tag.endsWith('/>')) continue;
    if (LOOSE.has(name)) {
      loose = Math.max(0, loose + (slash ? -1 : 1));
      if (loose <= MOST_LOOSE) continue;
      loose = MOST_LOOSE;
    } else if (slash) {
      if (dropped > 0) dropped--;
      else {
        depth = Math.max(0, depth - 1);
        continue;
      }
    } else if (depth < DEEPEST) {
      depth++;
      continue;
    } else dropped++;
    blanks.push([index, index + tag.length]);
  }
  if (!blanks.length) return html;
  const out: string[] = [];
  let at = 0;
  for (const [start, end] of blanks) {
    out.push(html.slice(at, start), ' '.repeat(end - start));
    at = end;
  }
  out.push(html.slice(at));
  return out.join('');
}

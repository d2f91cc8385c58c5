import { boundHeaders } from './email/headers';
import { boundNesting } from './nesting';
import { textOfHtml } from './html';

describe('nesting', () => {
  const deep = (count: number, tag = 'div'): string => `<${tag}>`.repeat(count);
  it('leaves a page as people write them as it is, to the letter', () => {
    const page =
      '<html><body>' + '<p>one<p>two<ul><li>a<li>b</ul><br/><img src=x>'.repeat(2000) + '</body></html>';
    expect(boundNesting(page)).toBe(page);
  });
  it('takes away what is nested deeper than any page, and keeps every offset', () => {
    const page = `${deep(5000)}deep down${'</div>'.repeat(5000)}<p>after</p>`;
    const bounded = boundNesting(page);
    expect(bounded).toHaveLength(page.length);
    expect(bounded.match(/<div>/g)).toHaveLength(200);
    expect(bounded.match(/<\/div>/g)).toHaveLength(200);
    expect(bounded.indexOf('deep down')).toBe(page.indexOf('deep down'));
    expect(textOfHtml(bounded).text).toContain('deep down');
    expect(textOfHtml(bounded).text).toContain('after');
  });
  it('bounds elements whose end is left out too', () =>
    expect(boundNesting('<td><li>'.repeat(50_000)).match(/<(?:td|li)>/g)?.length).toBeLessThanOrEqual(
      10_000,
    ));
});

describe('header fields', () => {
  const bound = (text: string): string =>
    new TextDecoder().decode(boundHeaders(new TextEncoder().encode(text)).bytes);
  it('leaves a message of the usual kind as it is', () => {
    const mail = `From: a@b.example\r\nTo: ${'c@d.example,\r\n '.repeat(300)}e@f.example\r\n\r\n${'body '.repeat(100_000)}`;
    expect(bound(mail)).toBe(mail);
  });
  it('cuts a field that is far too long, and not the next one', () => {
    const cut = bound(`From: a@b.example\r\nTo: ${'a:'.repeat(400_000)}\r\nSubject: kept\r\n\r\nhello`);
    expect(cut.length).toBeLessThan(20_000);
    expect(cut).toContain('\nSubject: kept\r\n\r\nhello');
  });
  it('cuts one that is long by its folded lines, and one of a part', () => {
    const cut = bound(
      `From: a@b.example\r\nX: y\r\n${' z\r\n'.repeat(100_000)}Subject: kept\r\n\r\n--b\r\nContent-Type: text/plain; ${'a=b; '.repeat(100_000)}\r\n\r\nhello\r\n--b--`,
    );
    expect(cut.length).toBeLessThan(40_000);
    expect(cut).toContain('Subject: kept');
    expect(cut).toContain('hello\r\n--b--');
  });
  it('cuts nothing of a body, however long its lines are', () => {
    const mail = `From: a@b.example\r\n\r\n${'a'.repeat(500_000)}\r\n-- \r\nAnn\r\n\r\n${'b'.repeat(500_000)}`;
    expect(bound(mail)).toBe(mail);
  });
});

import { Parser, type Handler } from 'htmlparser2';

/** Nobody's page is nested so deep. */
const DEEPEST = 500;
/** Inside these the parser reads plain characters, so that it cannot begin afresh there. */
const RAW = new Set('script style title textarea xmp iframe noembed noframes plaintext'.split(' '));

export interface Place {
  /** Where the tag or text that is told of begins in the document. */
  start: number;
  /** Just after it. */
  end: number;
}

/** What is told of a document as it is read through. */
export type Told = Required<Pick<Handler, 'onopentag' | 'ontext' | 'onclosetag'>>;

/**
 * Reads a document in one streaming pass with htmlparser2. The parser's list of open elements costs more with each
 * level, so a document that is nested deeper than any real one is read in pieces: what is open is closed, and the
 * reading goes on afresh after it. The time it takes then grows with the length of the document and not with its square.
 * @param html the document, whatever it is
 * @param told is told each tag and text, and may ask where the parser stands
 */
export function parseHtml(html: string, told: (at: () => Place) => Told): void {
  let from = 0;
  let parser: Parser;
  const to = told(() => ({ start: from + parser.startIndex, end: from + parser.endIndex + 1 }));
  while (from < html.length) {
    const open: string[] = [];
    let until = html.length;
    parser = new Parser(
      {
        onopentag(name, attributes, implied) {
          open.push(name);
          to.onopentag(name, attributes, implied);
          if (open.length < DEEPEST || RAW.has(name)) return;
          until = from + parser.endIndex + 1;
          parser.pause();
        },
        ontext: to.ontext,
        onclosetag(name, implied) {
          open.pop();
          to.onclosetag(name, implied);
        },
      },
      { decodeEntities: true, lowerCaseTags: true, lowerCaseAttributeNames: true },
    );
    parser.write(from === 0 ? html : html.slice(from));
    parser.end();
    for (const name of open.reverse()) to.onclosetag(name, true);
    from = until;
  }
}

import { alternatives } from '../words/compile';

const PHRASE = new RegExp(String.raw`(?<![\p{L}\d])(?:${alternatives('stopMail')})(?![\p{L}\d])`, 'giu');
const ALONE = new RegExp(String.raw`^(?:${alternatives('stopMailAlone')})$`, 'iu');
/** What turns the phrase behind it round: "please do not unsubscribe me". */
const TURNED = /(?:\b(?:not|never|nicht|ne|no|non|niet|inte|ikke)|n['’]t|(?<!\p{L})não)\s+(?:\p{L}+\s+)?$/iu;
const ANSWERED = /^\s*(?:(?:re|fwd?|aw|wg|sv|tr|enc|rv|vs|ynt)\s*:\s*)+/i;
const bare = (text: string): string =>
  text
    .replace(/[\s\u00a0]+/g, ' ')
    .replace(/^[\s"'„“«(]+|[\s.!,;"'”»)]+$/gu, '')
    .trim();

/**
 * Whether somebody asks to be written to no more: by a phrase that says so of themselves, or where that is all they write. What
 * is said of a thing ("stop sending me the old price list"), of others, or in the negative asks for nothing.
 * @param said their own words, without what they quote and sign
 */
export function asksToStop(said: string, subject: string): boolean {
  if (ALONE.test(bare(said)) || ALONE.test(bare(subject.replace(ANSWERED, '')))) return true;
  const text = said.replace(/[\s\u00a0]+/g, ' ');
  for (const found of text.matchAll(PHRASE))
    if (!TURNED.test(text.slice(Math.max(0, found.index - 30), found.index))) return true;
  return false;
}

import { alternatives, wordsOf } from '../../words/compile';
import { fold, rememberingLast } from '../../people/text';

const LEAVES = alternatives('valediction');
/** A line that takes leave, alone on its line or followed by a name. Common practice in the languages we read. */
export const VALEDICTION = new RegExp(`^\\s*(?:${LEAVES})\\s*(?:[,.!;~–—-]|$)`, 'iu');
/** The same before a name on one line: "Mvh Henning Solvang, Driftssjef". */
export const VALEDICTION_LEAD = new RegExp(`^\\s*(?:${LEAVES})[,!]?\\s+(?=\\p{L}{2})`, 'iu');

const TITLE_WORDS = new Set(wordsOf('titleWord').map(fold));
/** In the form that `fold` gives a text, so that syllables of Hangul and marks of kana are the same in both. */
const TITLE_STEMS = new RegExp(
  String.raw`(?:${alternatives('titleEnding').normalize('NFKD').replace(/\p{M}/gu, '')})$`,
);
const TITLE_SECTIONS =
  /^(?:head|vp|svp|chief|director|manager|lead|responsable|chef|leiter|leiterin|leitung|hoofd|responsabile|diretora?|gerente|encarregad[oa]|directeur|directrice) (?:of|de|du|des|da|do|dos|das|der|des|van|del|della|degli|acquisti|commerciale?|financiero|geral|comercial)\b/;

const isTitleWord = (word: string): boolean => TITLE_WORDS.has(word) || TITLE_STEMS.test(word);

/** How strongly a text reads as a job title: 0 no word of one, up to 1. */
export const titleLikeness = rememberingLast((text: string): number => {
  const folded = fold(text);
  const words = folded.split(' ');
  if (!folded || words.length > 9 || /[@]|\d{3}/.test(text)) return 0;
  if (TITLE_SECTIONS.test(folded)) return 1;
  const hits = words.filter(isTitleWord).length;
  if (!hits) return 0;
  return words.length <= 6 ? 1 : 0.6;
});

/** What a word before a number says of it; `phone` is any telephone, whichever kind. */
export type PhoneLabel = 'mobile' | 'work' | 'home' | 'fax' | 'phone';
type Label = PhoneLabel | 'email' | 'url' | 'address';

const LABELS: readonly [Label, RegExp][] = [
  ['fax', /^(?:(?:tele)?fax|f|faks|fx|telefaks|télécopie|facs(?:imile)?|fax\s?nr)$/i],
  ['mobile', new RegExp(String.raw`^(?:${alternatives('label.mobile')})$`, 'iu')],
  ['home', /^(?:h|home|privat|private|privé|priv|casa|thuis|domicile|home phone)$/iu],
  ['phone', new RegExp(String.raw`^(?:${alternatives('label.phone')})$`, 'iu')],
  ['work', new RegExp(String.raw`^(?:${alternatives('label.work')})$`, 'iu')],
  ['email', /^(?:e|email|e-mail|mail|m@|correo|courriel|e-post|epost|sähköposti|posta)$/iu],
  ['url', /^(?:w|www|web|website|site|url|internet|homepage|online|sítio|page)$/iu],
  [
    'address',
    /^(?:a|address|adresse|morada|dirección|direccion|adres|indirizzo|adress|anschrift|visit|visit us)$/iu,
  ],
];

/** What the word before a value says the value is; null when it is no label. */
export function labelOf(word: string): Label | null {
  const bare = word.trim().replace(/^[\s([{*☎📞✆📱✉📧🌐📠📍]+|[\s:.)\]}*>=]+$/gu, '');
  if (!bare) return null;
  return LABELS.find(([, pattern]) => pattern.test(bare))?.[0] ?? null;
}

/** Text that belongs to a house and not to the sender: small print, registrations, virus notes. */
export const SMALL_PRINT = new RegExp(String.raw`\b(?:${alternatives('smallPrint')})`, 'iu');

/** Whether a line is small print, and not only its last part behind a bar: "Larkhall Trust | Registered charity no. 1". */
export const isSmallPrint = (line: string): boolean => {
  const [first = ''] = line.split(/\s*[|•·]\s*/);
  return SMALL_PRINT.test(line) && (first === line || SMALL_PRINT.test(first));
};

/** What a phone or a program adds by itself. */
export const DEVICE_LINE =
  /^\s*(?:(?:sent|written|typed) (?:from|with|via|by|on|using) .{2,60}|(?:von (?:meinem|unterwegs)|gesendet (?:von|mit)|envoyé (?:de|depuis)|enviado (?:do|desde|de|a partir)|verzonden (?:vanaf|met|via)|verstuurd vanaf|inviato da|sendt fra|skickat från) .{1,60}|get .{2,30} for .{2,20}|(?:please )?(?:excuse|forgive) .{0,40}(?:typos|brevity|thumbs).*)$/iu;

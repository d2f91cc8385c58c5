import { alternatives } from '../../words/compile';
import { addressLikeness } from '../../people/addresses';
import { companyLikeness } from '../../people/companies';
import { isRoleName, looksLikeName, setCase } from '../../people/names';
import { titleLikeness } from '../signature/words';

export interface Found {
  field: 'fullName' | 'jobTitle' | 'companyName' | 'address';
  value: string;
  start: number;
  end: number;
  confidence: number;
  source: string;
}

const PARTICLE = 'van|von|de|der|den|da|do|dos|das|di|del|della|la|le|bin|ben|ter|ten|zu|e|y|Mc|Mac|al|el';
const WORD = "\\p{Lu}[\\p{L}'’]*(?:-\\p{Lu}?[\\p{L}'’]+)*";
const HONORIFIC = '(?:(?:Mr|Mrs|Ms|Miss|Dr|Herr|Frau|Sra?|Mme|M)\\.?\\s+)?';
const NAME = `${HONORIFIC}${WORD}(?:\\s+(?:(?:${PARTICLE})\\s+){0,2}(?:${WORD}|\\p{Lu}\\.)){0,3}`;
const JOIN =
  '(?:&|and|und|et|e|y|of|de|da|do|du|des|la|le|the|di|van|von|für|for|am|im|zum|an der|in der|\\+)';
const FIRM_WORD = "(?:\\p{Lu}|\\d)[\\p{L}\\d'’&./-]*";
const FIRM = `(?:the\\s+)?${FIRM_WORD}(?:\\s+(?:${JOIN}\\s+){0,3}${FIRM_WORD}){0,5}(?:\\s+(?:GmbH|Ltd\\.?|Lda\\.?|SARL|BV|AB|ApS|AS))?`;
const AT =
  '(?:from|at|of|with|w/|@|for|over at|bei|bei der|von|von der|vom|aus|aus der|chez|de chez|des|du|da|das|do|dos|de|del|della|dal|di|bij|van|hos|fra|från|på|i|from the)';
const TITLE = "(?:the\\s+|their\\s+|a\\s+|an\\s+)?[\\p{L}][\\p{L}'’/& -]{1,44}?";

const LEAD = new RegExp(
  `\\s*(?:\\d{1,2}[:.]\\d\\d(?:\\s?[ap]m)?[,:]?\\s+)?(?:${[
    '(?:just |quick |long |short |good |great |brief )*(?:spoke|spoken|talked|chatted|chat|met(?: up)?|meeting|call|phone call|catch-up|catch up|conversation|visit)(?: briefly| again| today| just now| on the phone| by phone)?(?: to| with| w/| from| by|:)',
    '(?:had |took |got )?(?:a |an )?(?:good |quick |long |short |great |brief )*(?:call|phone call|chat|meeting|enquiry|inquiry|message|voicemail|visit)(?: today| just now| yesterday| this morning)? (?:with|w/|from|by)',
    '(?:just )?(?:called|rang|phoned|reached|visited|met|saw|tried|caught|got hold of|got (?:put )?through to|put through to|left (?:a )?(?:message|voicemail) (?:for|with))(?: up with)?',
    '(?:incoming|inbound|outgoing|outbound|missed)(?: call)?(?:,? voicemail)?(?: from| to|:)?',
    '(?:new |hot |warm |cold )?(?:lead|contact|prospect|enquiry|inquiry|caller|customer|client|walk-in|walk in|voicemail|name|re|reception|called by|per|cc.?d)(?: from| by| at)?[:,]?',
    "(?:gespräch mit|anruf von|anruf bei|telefonat mit|hat angerufen:?|appel (?:de|avec)|appelé|chamada (?:de|com)|falei com|ligou|llamada (?:de|con)|hablé con|(?:j['’]ai |on a )?eu|j['’]ai (?:appelé|vu|rencontré)|gesprek met|gebeld met|telefonata con|parlato con)",
  ].join('|')})\\s+`,
  'iuy',
);
const ROLE_FIRST =
  /(?:the |their )?(?:(?:new |co-)?(?:owner|manager|shop manager|head baker|buyer|director|boss|founder|partner|chef))(?: there)?,?\s+/iuy;
const NAME_HERE = new RegExp(NAME, 'uy');
const FIRM_HERE = new RegExp(FIRM, 'uy');
/** What stands behind the name a note begins with, so that it is one and not the first words of a sentence. */
const BEHIND_NAME = new RegExp(
  `^\\s*(?:[,(–—/|.;:-]|${AT}\\s|(?:re|about)\\s|(?:is|just|called|rang|phoned|wants|needs|asked|asks|would|wanted|has|left|says|said|will|likes|runs|owns|here|on the|calling|back|by phone|today|again|and|who|this|tel|mob)\\b|[+\\d]|$)`,
  'u',
);
const FROM_FIRM = new RegExp(`^[\\s,]*\\(?(?:${AT})\\s+(?<firm>${FIRM})`, 'du');
/** A title and the firm it is held at. "At" and its like part them for sure; "of" may be in the title or before the firm. */
const roleAt = (parted: string): RegExp =>
  new RegExp(
    `^[\\s,–—(-]*(?:(?:who|s?he)(?:'s| is)\\s+)?(?<title>${TITLE})\\s*(?:${parted})\\s*(?<firm>${FIRM})`,
    'du',
  );
const ROLE_AT = [
  roleAt('\\bat\\b|\\bfrom\\b|@|\\bbei(?: der)?\\b|\\bchez\\b|\\bbij\\b|\\bhos\\b|(?<=\\s)på(?=\\s)'),
  roleAt(',|\\bof\\b|\\bfor\\b|\\bder\\b|\\bdes\\b|\\bdella\\b|\\bde\\b|\\bdel\\b|\\bdu\\b|\\bda\\b'),
];
/** What a head or director is one of, in contrast to a firm. Common practice. */
const DEPARTMENT = new RegExp(String.raw`^(?:${alternatives('department')})\b`, 'i');
const NOT_A_NAME = new RegExp(String.raw`^(?:${alternatives('notACallersName')})$`, 'i');

/** A clause that holds the word of a title and says something else. */
export const NOT_A_TITLE =
  /[?!]|^(?:no\b|not\b|s?he(?:'ll|'d)|(?:s?he|they|we|i|it|who) (?!is\b|was\b))|\s(?:has|have|had|will|would|must|can|could|decides?|agrees?|says?|said|wants?|needs?|signs?|pays?|asks?|muss|kann|hat|will|doit|peut|veut|debe|puede|tiene|pode|deve|può|moet|kan|heeft|fällt|wird|entscheidet|bleibt|décide|firma|decide)\s/i;

const isName = (text: string): boolean =>
  looksLikeName(text) &&
  !NOT_A_NAME.test(text.split(/\s+/)[0] ?? '') &&
  !isRoleName(text) &&
  titleLikeness(text) === 0 &&
  companyLikeness(text) < 1;

type Groups = Record<string, [number, number] | undefined>;
const indicesOf = (match: RegExpExecArray): Groups =>
  ((match as RegExpExecArray & { indices?: { groups?: Groups } }).indices?.groups ?? {}) as Groups;

/** One part of a list that a note begins with, set off by commas, bars or brackets. */
interface Piece {
  text: string;
  start: number;
  end: number;
}

function piecesOf(text: string, from: number): Piece[] {
  const pieces: Piece[] = [];
  let at = from;
  for (const part of text.slice(from).split(/([,|/()\t–—]|:\s|\s-\s|\s+(?=[+(]?\d[\d ()]{5}))/)) {
    const lead = /^[\s:]*/.exec(part)?.[0].length ?? 0;
    const words = part
      .trim()
      .replace(/^:\s*/, '')
      .replace(/[\s.:]+$/, '');
    if (/[\p{L}\d]/u.test(words))
      pieces.push({ text: words, start: at + lead, end: at + lead + words.length });
    at += part.length;
  }
  return pieces;
}

/** The words of a firm's name before a lower-case word or the rest of the sentence. */
const trimFirm = (firm: string): string =>
  firm
    .replace(/(?<=\s(?:Ltd|Inc|Co|Pvt|Lda|Srl|GmbH|Corp|LLC))\.\s.*$/u, '')
    .replace(/[\s.,;:-]+$/u, '')
    .replace(/^the\s+(?=\p{Lu})/u, '');

const found = (
  field: Found['field'],
  text: string,
  [start, end]: readonly [number, number],
  confidence: number,
  source = 'the note',
): Found => ({ field, value: text.slice(start, end), start, end, confidence, source });

/** The title and firm that stand behind a name which ends at `from`. */
export function readTail(text: string, from: number, known: Found[]): Found[] {
  const added: Found[] = [];
  const has = (field: Found['field']): boolean => [...known, ...added].some((one) => one.field === field);
  const rest = text.slice(from);
  const role = ROLE_AT.map((pattern) => pattern.exec(rest)).find(
    (one) =>
      one?.groups?.title && titleLikeness(one.groups.title) > 0 && !DEPARTMENT.test(one.groups.firm ?? ''),
  );
  const roleAt = role && indicesOf(role);
  const shift = ([start, end]: readonly [number, number]): [number, number] => [from + start, from + end];
  if (role?.groups?.title && roleAt?.title && roleAt.firm) {
    const title = role.groups.title.replace(/^(?:(?:is|was)\s+)?(?:(?:the|their|a|an)\s+)?/i, '').trimEnd();
    const start = from + roleAt.title[0] + role.groups.title.trimEnd().length - title.length;
    added.push(found('jobTitle', text, [start, start + title.length], 0.9));
    const bare = (role.groups.firm ?? '').replace(/^(?:the|M\/s\.?)\s+/, '');
    const at = roleAt.firm[1] - bare.length;
    added.push(found('companyName', text, shift([at, at + trimFirm(bare).length]), 0.9));
    return added;
  }
  const at = FROM_FIRM.exec(rest);
  const firmAt = at && indicesOf(at).firm;
  const bareFirm = at?.groups?.firm?.replace(/^(?:the|M\/s\.?)\s+/, '') ?? '';
  if (bareFirm && firmAt && !NOT_A_NAME.test(bareFirm.split(' ')[0] ?? '')) {
    const firm = trimFirm(bareFirm);
    const start = firmAt[1] - bareFirm.length;
    added.push(found('companyName', text, shift([start, start + firm.length]), 0.9));
  }
  const listFrom = added[0]?.end ?? from;
  if (!/^[\s]*[,(|/–—-]|^\s*$/.test(text.slice(listFrom)) && !added.length) return added;
  for (const piece of piecesOf(text, listFrom).slice(0, 6)) {
    const words = piece.text.split(/\s+/);
    const here: [number, number] = [piece.start, piece.end];
    if (/[@\d]/.test(piece.text) && addressLikeness(piece.text) < 1 && companyLikeness(piece.text) === 0)
      continue;
    if (
      !has('jobTitle') &&
      titleLikeness(piece.text) > 0 &&
      !NOT_A_TITLE.test(piece.text) &&
      words.length <= 5 &&
      companyLikeness(piece.text) < 1
    ) {
      const bare = piece.text.replace(/^(?:(?:s?he )?(?:is|was) |she's |he's )?(?:the |their |a |an )?/i, '');
      added.push(found('jobTitle', text, [piece.end - bare.length, piece.end], 0.88));
    } else if (
      !has('companyName') &&
      words.length <= 6 &&
      (companyLikeness(piece.text) > 0 || /^(?:the\s+)?[\p{Lu}\d]/u.test(piece.text)) &&
      addressLikeness(piece.text) < 1
    )
      added.push(found('companyName', text, here, companyLikeness(piece.text) > 0 ? 0.93 : 0.85));
    else if (
      !has('address') &&
      addressLikeness(piece.text) >= 1 &&
      /\d/.test(piece.text) &&
      !/[€£$]/.test(piece.text)
    )
      added.push(found('address', text, here, 0.8));
    else if (!/^[\p{Lu}\d]/u.test(piece.text)) break;
  }
  return added;
}

/** "ines duarte, padaria sol, …" typed without capitals: a list of short parts with a number or address among them. */
function readLowered(text: string): Found[] {
  const [name, firm, ...more] = piecesOf(text, skip(LEAD, text, skip(LEAD, text, 0)));
  if (!name || !firm || text !== text.toLowerCase()) return [];
  const words = name.text.split(' ');
  const contact =
    [firm, ...more].some((one) => /@|\d{4}/.test(one.text)) || /@|\d{6}/.test(text.replace(/\s/g, ''));
  const plain =
    words.length >= 2 && words.length <= 3 && words.every((word) => /^\p{L}[\p{L}'’]+$/u.test(word));
  if (!plain || !contact || NOT_A_NAME.test(words[0] ?? '')) return [];
  const cased = (one: Piece, field: Found['field'], confidence: number): Found => ({
    ...found(field, text, [one.start, one.end], confidence),
    value: setCase(one.text),
  });
  const isFirm = !/[@\d]/.test(firm.text) && firm.text.split(' ').length <= 5;
  return [
    cased(name, 'fullName', 0.8),
    ...(isFirm ? [cased(firm, titleLikeness(firm.text) > 0 ? 'jobTitle' : 'companyName', 0.7)] : []),
  ];
}

/** The end of the words that lead up to a name: "missed call, voicemail from". */
function skip(pattern: RegExp, text: string, from: number): number {
  pattern.lastIndex = from;
  return pattern.test(text) ? pattern.lastIndex : from;
}

function match(pattern: RegExp, text: string, from: number): string {
  pattern.lastIndex = from;
  return pattern.exec(text)?.[0] ?? '';
}

function whoAt(text: string, from: number): Found[] {
  let start = skip(LEAD, text, from);
  const isLed = start > from;
  if (isLed) start = skip(LEAD, text, start);
  const withRole = skip(ROLE_FIRST, text, start);
  const role = text.slice(start, withRole).trim().replace(/,$/, '');
  const written = match(NAME_HERE, text, withRole).trimEnd();
  const bare = written.replace(new RegExp(`^${HONORIFIC}`, 'u'), '');
  const begin = withRole + written.length - bare.length;
  const end = begin + bare.length;
  if (bare && isName(bare) && (isLed || BEHIND_NAME.test(text.slice(end)))) {
    const who = [found('fullName', text, [begin, end], bare.includes(' ') ? 0.92 : 0.75)];
    if (role) {
      const title = role.replace(/^(?:the|their|new)\s+/i, '');
      who.push(
        found(
          'jobTitle',
          text,
          [start + role.indexOf(title), start + role.indexOf(title) + title.length],
          0.8,
        ),
      );
    }
    return [...who, ...readTail(text, end, who)];
  }
  const firm = isLed ? trimFirm(match(FIRM_HERE, text, withRole)) : '';
  return firm.includes(' ') || companyLikeness(firm) > 0
    ? [
        found(
          'companyName',
          text,
          [
            withRole + text.slice(withRole).indexOf(firm),
            withRole + text.slice(withRole).indexOf(firm) + firm.length,
          ],
          0.75,
        ),
      ]
    : [];
}

/**
 * Whom a note is about: the name it begins with, after "spoke to", "called", "call from" and the like, and the title and
 * company that stand with it.
 * @param text one clause or line of the note
 */
export function readWho(text: string): Found[] {
  const known: Found[] = [];
  const starts = [
    0,
    ...[...text.matchAll(/,\s+(?=\p{Ll})|\s+and\s+/gu)].map((one) => one.index + one[0].length),
  ];
  for (const from of starts.slice(0, 4)) {
    for (const one of whoAt(text, from))
      if (!known.some((other) => other.field === one.field)) known.push(one);
    if (known.some((one) => one.field === 'fullName')) return known;
  }
  return known.length ? known : readLowered(text);
}

/** Whether a clause says that a talk took place, and with whom, and nothing to be done. */
export const isLedIn = (text: string): boolean => skip(LEAD, text, 0) > 0;

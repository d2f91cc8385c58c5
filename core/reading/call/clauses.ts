import { matchesOf } from '../matches';
/** A stretch of a note that says one thing. */
export interface Clause {
  text: string;
  start: number;
  end: number;
}

/** What begins a new statement after a comma or a dash. */
const OPENER =
  "(?:(?:and |then |but |also |plus )?(?:s?he|they|we|i|it|who|her|his|their|wants?|wanted|would|needs?|needed|looking|likes?|liked|loves?|loved|keen|interested|budget|spend|decides?|decision|has|have|had|is|was|are|uses?|runs?|asked|asks|says?|said|told|thinks?|worried|concerned|prefers?|works?|lives?|will|won't|wouldn't|can't|cannot|could|can|might|may|promised|agreed|already|currently|not|no|too|price|delivery|start(?:s|ing)?|moving|opens?|opening|closing|send|call|ring|phone|email|e-mail|mail|write|quote|meet|meeting|visit|lunch|coffee|demo|follow[- ]?up|check|chase|remind|prepare|book|order|arrange|bring|deliver|confirm|invoice|draft|schedule|set up|test ride|site visit|back (?:on|in)|best (?:time|reached)|reach(?:able)?|don't|do not|pls|please|to do|todo|next|tel|mob|mobile|email address)\\b|(?:i|we|she|he|they)'(?:ll|d|re|ve|s|m)\\b)";
/** Words that end in a full stop within a sentence. */
export const ABBREVIATED =
  'kl|Kl|d|D|Mr|Mrs|Ms|Dr|Hr|Hrn|Fr|St|No|Nr|Tsd|Mio|tys|tis|mln|mrd|bzw|z\\.B|inkl|nos|approx|ca|e\\.g|i\\.e|tel|mob|ext|Tel|Mob|max|min|incl|excl|Ltd|Co|Inc|mon|tue|tues|wed|thu|thur|thurs|fri|sat|sun|jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec|hrs|p\\.m|a\\.m';
/** "am 1. Januar", "den 11. desember": the full stop belongs to the day. */
export const OF_A_MONTH =
  '(?!\\s(?:\\d{1,2}\\.|um|kl|at|@|\\d{1,2}(?:[:.h]\\d\\d|\\s?(?:Uhr|h|uur|hod)\\b)|jan|feb|mär|mar|apr|ma[ijy]|jun|jul|aug|sep|okt|nov|de[zsc]|tammi|helmi|maalis|huhti|touko|kesä|heinä|elo|syys|loka|marras|joulu|led|únor|břez|dub|květ|červ|srp|zář|říj|list|pros|sty|lut|kwi|cze|lip|sie|wrz|paź|gru)\\p{L}*)';
const BREAK = new RegExp(
  `\\n+|;|(?:(?<!\\d)[.!?]+|(?<=\\d)[!?]+|(?<=\\d)\\.${OF_A_MONTH})(?=["')\\]]?(?:\\s|$))(?<!\\b(?:${ABBREVIATED})\\.)|,(?!\\s+not\\s+\\d)(?=\\s+${OPENER})|\\s+[–—-]+(?=\\s+)|\\s+(?=(?:and|but)\\s+(?:s?he|they|i|we|wants?|needs?|will|asked|send|call|book)\\b)`,
  'giu',
);
/** A full stop behind a day of a shortened month ends a sentence when a capital follows: "by 9th Feb. Try him then." */
const AFTER_DAY =
  /(?<=\b\d{1,2}(?:st|nd|rd|th)?\.?\s(?:[Jj]an|[Ff]eb|[Mm]ar|[Aa]pr|[Jj]un|[Jj]ul|[Aa]ug|[Ss]ept?|[Oo]ct|[Nn]ov|[Dd]ec)\.)\s+(?=\p{Lu}\p{Ll})/gu;
const LONGEST = 600;
const MOST = 300;

/** Cuts a note into its clauses, each with its place. Linear in the note; at most 300 are looked at. */
export function clausesOf(text: string): Clause[] {
  const clauses: Clause[] = [];
  let from = 0;
  const push = (until: number): void => {
    const raw = text.slice(from, until);
    const lead = /^[\s,;:•*>–—-]*/.exec(raw)?.[0].length ?? 0;
    const words = raw.slice(lead).trimEnd().slice(0, LONGEST);
    if (/[\p{L}\p{N}]/u.test(words))
      clauses.push({ text: words, start: from + lead, end: from + lead + words.length });
  };
  const breaks = [...matchesOf(BREAK, text), ...matchesOf(AFTER_DAY, text)].sort((a, b) => a.index - b.index);
  for (const match of breaks) {
    if (clauses.length >= MOST) return clauses;
    const kept = /^[.!?]/.test(match[0]) ? match[0].length : 0;
    push(match.index + kept);
    from = match.index + match[0].length;
  }
  push(text.length);
  return clauses;
}

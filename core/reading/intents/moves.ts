/** What a next move is done by. */
export type MoveKind = 'call' | 'mail' | 'meeting' | 'visit' | 'task';
export type EntryKind = 'note' | 'call' | 'mail' | 'meeting' | 'visit';

/** Verbs that begin what is to be done, as a rep notes it for the team: "send quote", "call back Thursday". */
export const TO_DO: readonly [RegExp, MoveKind][] = [
  [/^(?:call|ring|phone|telephone|try (?:again|them|him|her))\b/i, 'call'],
  [/^(?:e-?mail|mail|write|letter|reply|answer|send|quote|forward|resend)\b/i, 'mail'],
  [
    /^(?:meet|meeting(?! (?:was|got|has|moved|postponed|cancelled)\b)|lunch|coffee|demo|see|show|test ride)\b/i,
    'meeting',
  ],
  [/^(?:visit|site visit|drop (?:by|in)|pop in)\b/i, 'visit'],
  [
    /^(?:ask|check|chase|remind|follow[- ]?up|prepare|book|order|get|find|fix|arrange|bring|deliver|confirm|invoice|todo|task|next|draft|schedule|set up|make|work out|put together|look up|reserve|pass (?:on|to)|introduce)\b/i,
    'task',
  ],
  // In the other languages we read; German puts the verb last. Common practice.
  [/^(?:rappeler|appeler|ligar|telefonar|llamar|bellen|terugbellen|richiamare|ring(?:e|a)?)\b/i, 'call'],
  [/^(?:envoyer|enviar|mandar|sturen|opsturen|inviare|skicka|sende?)\b/i, 'mail'],
  [/^(?:\S+\s){0,8}(?:an|zurück)rufen[.!]?$/i, 'call'],
  [/^(?:\S+\s){1,8}(?:schicken|senden|zusenden|zuschicken|mailen)[.!]?$/i, 'mail'],
];

/** Verbs that say what has happened already, and from whose side. */
export const DONE: readonly [RegExp, EntryKind, 'ours' | 'theirs'][] = [
  [
    /^(?:visited|(?:dropped|popped|called) (?:by|in)(?= |$)|was at their|went (?:to see|by|round))\b/i,
    'visit',
    'ours',
  ],
  [/^(?:called|rang|phoned|spoke|talked|left (?:a )?(?:message|voicemail))\b/i, 'call', 'ours'],
  [/^(?:(?:s?he|they) (?:called|rang|phoned)|missed (?:a )?call)\b/i, 'call', 'theirs'],
  [/^(?:e-?mailed|wrote|replied|answered|sent)\b/i, 'mail', 'ours'],
  [/^(?:(?:s?he|they) (?:e-?mailed|wrote|replied|answered|sent))\b/i, 'mail', 'theirs'],
  [
    /^(?:(?:s?he|they) (?:visited|came (?:by|in|to see us)|dropped (?:by|in)|popped in))\b/i,
    'visit',
    'theirs',
  ],
  [
    /^(?:met|meeting (?:was |got )?(?:moved|postponed|cancelled|called off|put off|rescheduled)|showed|demonstrated)\b/i,
    'meeting',
    'ours',
  ],
];

/** The kind of thing to do that a text begins with; null when it begins otherwise. */
export const moveKindOf = (text: string): MoveKind | null =>
  TO_DO.find(([pattern]) => pattern.test(text))?.[1] ?? null;

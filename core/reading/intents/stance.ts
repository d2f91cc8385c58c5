import { tidy } from '../../people/text';
import type { Intent } from '../types';
import { flatten } from './dateWords';
import type { Sentence } from './sentences';

/** Who says the sentence: the person of interest in a message of theirs, one of us in a note about them. */
export type Speaker = 'theirs' | 'ours';

const lines = (text: string): string =>
  text
    .trim()
    .split(/\s*\n\s*/)
    .join('|');

const WORK =
  '(?:send|call|ring|phone|get back|come back|be in touch|let (?:you|him|her|them|us|me|pell|ines|mara) know|bring|check|confirm|email|mail|write|reply|forward|pay|sign|order|visit|drop|pop|talk to|speak to|ask|discuss|share|prepare|put together|follow up|arrange|book|provide|deliver|introduce|look (?:into|at|over)|think|decide|review|fill|return|transfer|find out|meet|show|see (?:if|what|whether)|try|make sure|keep (?:you|us|him|her) posted|chase|draft|quote|give|text|message|do|have|come|take|raise|set up|hear)';
/** "I'll send", "we will get back to you": a promise of whoever speaks. */
const FIRST = new RegExp(
  `\\b(?:i|we)(?:'ll| will| shall|'m going to| am going to|'re going to| are going to| promise to| can promise)(?: also| then| certainly| gladly| happily| definitely)? ${WORK}\\b|\\b(?:i|we)'?(?:ve| have)? promised\\b|\\b(?:ich|wir) (?:melden? (?:mich|uns)|schicken?|senden?|rufen?|werden?|geben? ihnen bescheid|kommen? (?:auf sie )?zuruck)\\b|\\b(?:je vous (?:envoie|enverrai|rappelle|rappellerai|recontacte|recontacterai|confirme|confirmerai|tiens)|nous vous (?:enverrons|rappellerons|recontacterons|tiendrons))\\b|\\b(?:envio|enviarei|ligo|ligarei|vou (?:enviar|ligar|confirmar|mandar)|vamos (?:enviar|ligar|confirmar))\\b|\\b(?:le (?:envio|enviare|llamo|llamare)|vamos a (?:enviar|llamar|confirmar)|te (?:envio|llamo))\\b|\\b(?:ik|we|wij) (?:stuur|sturen|bel|bellen|laat|laten)\\b`,
);
/** "She will send the drawings", "promised to pay by Friday": in our notes, a promise of theirs. */
const THIRD = new RegExp(
  `\\b(?:s?he|they|who|client|customer|[a-z]+)(?:'ll| will| shall|'s going to| is going to| are going to) (?:also |then )?${WORK}\\b|\\b(?:s?he|they) (?:has |have )?promised\\b|^(?:will|'ll|promised to|promises to|agreed to|going to) (?:also )?${WORK}\\b`,
);
const OURS_TOLD =
  /\b(?:told (?:him|her|them) (?:i|we)(?:'d| would| will|'ll)|promised (?:him|her|them)|i said (?:i|we)(?:'d| would| will|'ll)|said (?:i|we)(?:'d| would|'ll| will))\b/;
const CONDITIONAL = /\b(?:if|unless|wenn|si|se)\b.*$/;

const INTEREST = new RegExp(
  `\\b(?:${lines(`
  (?:very |really |quite |most |still |mainly |also |definitely |particularly |especially )*(?:interested|keen|sold) (?:in|on|about|to)
  (?:really |quite |also |very much )?(?:likes|liked|loves|loved|fancies|impressed (?:by|with)|excited (?:about|by)|enthusiastic about|happy with the (?:demo|test|trial|offer|quote|ride))
  (?:was|is|are|were|seems?|sounds?|sounded) (?:very |really |quite )?(?:keen|interested|positive|enthusiastic|impressed|excited)
  (?:we|i) (?:really |very much )?(?:like|love|loved|liked|enjoyed) (?:the|your|how|what)
  (?:would|'d) (?:really )?(?:love|like) to (?:try|see|test|have|know more|learn more|hear more|go ahead|order|buy)
  (?:caught|has) (?:my|our|his|her|their) (?:eye|attention)
  looks? (?:very |really )?(?:promising|great|ideal|perfect)
  interessier\\w+ (?:mich|uns|sich)
  (?:ist|sind|bin) (?:sehr )?interessiert
  (?:est|sommes|suis) (?:tres )?interesse\\w*
  interesse (?:em|por|pour|par|na|no)
  interessad[oa]s?
  (?:me|nos|le|les) interesan?
  geinteresseerd
  interessat[oi]`)})\\b`,
);
/** "wants eight bikes" in a note about somebody. */
const WANTS =
  /\b(?:(?:s?he|they|client|customer) )?(?:wants|want|wanted|would like|needs|need|needed|looking for|looking at|after|considering|thinking (?:of|about)|would take|will take|wants to (?:buy|lease|rent|try|order)|planning)\b/;

const OBJECTION = new RegExp(
  `\\b(?:${lines(`
  too (?:expensive|dear|pricey|much|slow|heavy|big|large|small|long|wide|late|early|high|steep|costly|complicated|risky)
  (?:price|cost|quote|offer|delivery|lead time)s? (?:is|are|was|were|seems?|looks?|sounds?|feels?) (?:still |a bit |rather |quite |very |far |way |much )*(?:too )?(?:high|steep|long|an issue|a problem|a worry|a concern|above|over)
  (?:\\w+ )?(?:above|over|beyond|outside) (?:the|our|their|his|her|my) budget
  (?:can't|cannot|can not|could not|couldn't) (?:afford|justify|stretch|spend|decide|commit|store|charge|wait|see how|go (?:above|over|higher))
  (?:worr(?:ied|ies|y)|concern(?:ed|s)?|nervous|hesita\\w+|doubts?|doubtful|sceptical|skeptical|unsure|unconvinced|reluctant|afraid|put off)(?: that| about| by| because| whether| of| the)?
  not (?:sure|convinced|certain|ready|happy|keen|interested|a priority|now|yet|this year|the right time|in (?:the|this) budget)
  (?:no|not enough|lack of|without) (?:budget|money|space|room|storage|charging|funds|parking|time|decision|need|approval)
  (?:already|currently) (?:have|has|got|use|uses|using|with|tied|happy|locked|under contract|leasing|leases|rent|rents)
  (?:happy|satisfied|content) with (?:the|our|their|his|her|its|what) (?:current|present|existing|old|we|they|he|she|vans?|supplier)
  (?:is|are|was|were) cheaper
  cheaper (?:elsewhere|offer|quote|option|one)
  (?:wants?|needs?|asked for|expects?) (?:a )?(?:discount|better price|lower price)
  (?:has|have|needs?|must) to (?:convince|persuade|ask the board|think (?:it|about)|sleep on)
  bad (?:experience|experiences)
  (?:problem|trouble|issue|sticking point|objection|obstacle|catch|snag|stumbling block)s? (?:is|are|was|with|:)
  (?:main|big|biggest|only|one) (?:worry|concern|objection|doubt|issue|problem|hesitation)
  zu teuer
  kein budget
  trop (?:cher|chere|chers|lourd|long)
  (?:muito|demasiado) car[oa]s?
  demasiado caro
  te duur
  troppo car[oi]`)})`,
);
const NOT_AN_OBJECTION =
  /\b(?:no (?:worries|problem|concerns|objections?|doubts?|issues?)|not a problem|don't worry|without (?:any )?(?:problem|trouble|doubt)|not too)\b/;
const MOST = 6;

const whole = (sentence: Sentence): { text: string; span: Intent['span'] } => ({
  text: tidy(sentence.text),
  span: {
    part: 'text',
    start: sentence.start,
    end: sentence.at(sentence.text.length - 1) + 1,
  },
});

const bare = (text: string): string => text.replace(/^[\s,;:-]+|[\s,;:.!?]+$/g, '');

/** What somebody promised, whose promise it is, and by when. */
export function readPromises(
  sentences: readonly Sentence[],
  dates: readonly Intent[],
  speaker: Speaker,
): Intent[] {
  const found: Intent[] = [];
  for (const sentence of sentences) {
    const flat = flatten(tidy(sentence.text))
      .replace(/[\u2018\u2019]/g, "'")
      .replace(CONDITIONAL, '');
    const told = OURS_TOLD.test(flat);
    const first = FIRST.test(flat);
    const third = !first && !told && speaker === 'ours' && THIRD.test(flat);
    if (/\?\s*$/.test(flat) || (!told && !first && !third)) continue;
    const { text, span } = whole(sentence);
    const due = dates.find((date) => date.span.start >= span.start && date.span.end <= span.end);
    found.push({
      kind: 'promise',
      text,
      value: {
        by: third || (first && speaker === 'theirs') ? 'theirs' : 'ours',
        what: bare(text),
        due: due?.kind === 'date' ? due.value.at : null,
      },
      confidence: first || told ? 0.85 : 0.8,
      span,
    });
  }
  return found.slice(0, MOST);
}

/** What draws somebody, and what holds them back, each with the sentence that says so. */
export function readStance(sentences: readonly Sentence[], speaker: Speaker): Intent[] {
  const found: Intent[] = [];
  for (const sentence of sentences) {
    const flat = flatten(tidy(sentence.text)).replace(/[\u2018\u2019]/g, "'");
    const { text, span } = whole(sentence);
    const against = OBJECTION.test(flat) && !NOT_AN_OBJECTION.test(flat);
    const drawn =
      /\b(?:not|isn't|no longer|never|nicht|pas) (?:\w+ )?(?:interested|keen|interessiert)\b/.test(flat)
        ? false
        : INTEREST.test(flat) || (speaker === 'ours' && WANTS.test(flat) && !against);
    if (against) found.push({ kind: 'objection', text, value: { what: bare(text) }, confidence: 0.75, span });
    if (drawn)
      found.push({
        kind: 'interest',
        text,
        value: { what: bare(text) },
        confidence: INTEREST.test(flat) ? 0.85 : 0.75,
        span,
      });
  }
  return found.slice(0, MOST * 2);
}

import type { Intent } from '../types';
import { tidy } from '../../people/text';
import type { Sentence } from './sentences';

const REQUEST =
  /\b(?:(?:could|can|would|will) you(?: please| kindly)?|please|kindly|(?:we|i)(?:['’]d| would)? (?:need|want|like|love|appreciate|be grateful|be interested)|(?:we|i) (?:are|am) (?:looking for|interested in|after)|(?:we|i)['’](?:re|m) (?:looking for|interested in|after)|let (?:me|us) know|send (?:me|us)|(?:my|our) \w+ (?:asks?|would like|wants?|needs?)|is it possible|would it be possible|do you (?:have|offer|deliver|do|sell|ship|rent|lease|also)|are you able|how (?:much|many|long|soon|quickly|does)|what (?:is|are|does|do|would|kind|about|sort)|when (?:could|can|would|will)|(?:könnten|können|würden) sie(?: bitte)?|bitte|wir (?:brauchen|benötigen|suchen|möchten|hätten gern)|ich (?:brauche|benötige|suche|möchte|hätte gern)|(?:pourriez|pouvez|auriez)-vous|merci de|nous (?:souhaitons|voudrions|cherchons|aimerions|avons besoin)|je (?:souhaite|voudrais|cherche)|(?:poderia|poderiam|podem|pode)(?: por favor)?|gostaria(?:mos)?|precis(?:o|amos)|queremos|por favor|(?:podría|podrían|puede|pueden)|nos gustaría|me gustaría|necesit(?:o|amos)|(?:kunt|zou|zoudt) u|kun je|graag|wij zoeken|we zoeken|(?:potrebbe|potreste|può)|vorremmo|vorrei|cerchiamo)\b/iu;
const LEAD =
  /^.*?\b(?:(?:could|can|would|will) you(?: please| kindly)?(?: be able to)?|please|kindly|(?:we|i)(?:['’]d| would)? (?:need|want|like|love)(?: to)?|(?:we|i)(?: are| am|['’]re|['’]m) (?:looking for|interested in|after)|is it possible (?:to|for you to)|would it be possible (?:to|for you to)|(?:könnten|können|würden) sie(?: (?:uns|mir|bitte))*|bitte|(?:pourriez|pouvez)-vous|merci de|(?:poderia|poderiam|podem|pode)|(?:podría|podrían|puede|pueden)|(?:kunt|zou) u)\s+/iu;
const POLITE =
  /\b(?:please (?:find|see|note|excuse|forgive|do not|don['’]t (?:reply|hesitate)|ignore)|let me know if you (?:have any )?questions|don['’]t hesitate|bitte (?:beachten|entschuldigen)|would like to thank|i hope|wie geht)\b/iu;
const MOST = 8;

/** What a sender asks of us: one intent a sentence, with the date in it as the day it is due. */
export function readAsks(sentences: readonly Sentence[], whens: readonly Intent[]): Intent[] {
  const asks: Intent[] = [];
  for (const sentence of sentences) {
    if (asks.length >= MOST) break;
    const asked = REQUEST.test(tidy(sentence.text));
    if (POLITE.test(sentence.text) || sentence.text.length < 8 || (!asked && !/\?$/.test(sentence.text)))
      continue;
    if (!asked && sentence.text.split(' ').length < 3) continue;
    const end = sentence.at(sentence.text.length - 1) + 1;
    const due = whens.find((when) => when.span.start >= sentence.start && when.span.end <= end);
    const direct =
      /\b(?:could|can|would|will) you|please|send (?:me|us)|könnten sie|können sie|pourriez|pouvez|poderia|podem|podría|kunt u|kun je/iu.test(
        sentence.text,
      );
    asks.push({
      kind: 'ask',
      text: tidy(sentence.text),
      value: {
        what: tidy(sentence.text)
          .replace(LEAD, '')
          .replace(/[?.!]+$/, ''),
        due: due?.kind === 'when' ? due.value.at : null,
      },
      confidence: direct ? 0.92 : asked ? 0.8 : 0.7,
      span: { part: 'text', start: sentence.start, end },
    });
  }
  return asks;
}

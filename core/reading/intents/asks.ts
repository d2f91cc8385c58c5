import type { Intent } from '../types';
import { tidy } from '../../people/text';
import { flatten } from './dateWords';
import type { Sentence } from './sentences';

const words = (text: string): string =>
  text
    .trim()
    .split(/\s*\n\s*/)
    .join('|');

/** Words that turn to somebody with a request; in flat text, without accents and capitals. */
const DIRECT = words(`
  (?:could|can|would|will) (?:you|someone|somebody)(?: please| kindly)?(?: be able to)?
  (?:could|can|may) we(?: also| please)*
  please
  kindly
  is it possible(?: to| for you to)?
  would it be possible(?: to| for you to)?
  (?:konnten|konnen|wurden) (?:sie|wir|ich)(?: (?:uns|mir|bitte))*
  (?:konnt|kannst) (?:ihr|du)
  (?:wir )?bitten
  bitte
  (?:pourriez|pouvez|auriez|seriez|etes)-vous
  pourrions-nous
  serait-il possible (?:de|d')
  merci (?:de|d')
  (?:poderia|poderiam|podem|pode|podemos)(?: por favor)?
  por favor
  (?:podria|podrian|puede|pueden)
  rogamos
  (?:kunt|kunnen|zou|zoudt|zouden) (?:u|we|jullie)
  kun je
  (?:potrebbe|potreste|potete|puo|possiamo)
  kan (?:ni|du|i|dere|vi)
  vil (?:du|i|dere)
  prosz[eę] o
  prosim o`);
/** Requests that are their own first word, and stay when the lead-in is dropped. */
const BARE = '(?:send|call|ring|phone|text|email|write|visit|meet|show|tell) (?:me|us)|let (?:me|us) know';
/** Words that say what somebody wants. */
const WISH = words(`
  (?:we|i)(?:'d| would| do)?(?: also)? (?:need|want|like|love|appreciate|require|be grateful|be interested)(?: to)?
  (?:we|i)(?: are|'re| am|'m)(?: also)? (?:looking for|looking at|looking to|interested in|after|keen on)
  (?:looking|keen) (?:for|on|at)
  would (?:like|love|need)(?: to)?
  (?:my|our) \\w+ (?:asks?|would like|wants?|needs?)
  (?:wir|ich) (?:brauchen?|benotigen?|suchen?|mochten?|hatten? gern\\w*|brauchten?|wollen|bestellen|uberlegen|interessieren uns)
  (?:brauchen|benotigen|suchen|mochten|hatten|brauchten) wir
  hatten? (?:wir|ich)?\\s?gern\\w*
  nous (?:souhaitons|voudrions|(?:re)?cherchons|aimerions|avons besoin)
  (?:j'aimerais|je (?:souhaite|voudrais|cherche|recherche))
  souhaite
  gostaria(?:mos)?
  precis(?:o|amos)
  quer(?:o|emos|ia|iamos)
  (?:nos|me) (?:gustaria|interesa)
  necesit(?:o|amos)
  buscamos
  desea(?:mos)?
  (?:wij|we|ik) (?:zoeken|willen|wil|zoek|hebben)(?: graag)?
  graag
  vorremmo
  vorrei
  cerchiamo
  chiediamo
  vi (?:behover|onskar|soker|trenger|onsker)
  mame zajem`);
const QUESTION = words(`
  do you (?:have|offer|deliver|do|sell|ship|rent|lease|also|hire)
  are you able
  how (?:much|many|long|soon|quickly|does|do)
  what (?:is|are|does|do|would|kind|about|sort)
  when (?:could|can|would|will)`);
const ASKED = new RegExp(`(?<![a-z])(?:${DIRECT}|${BARE}|${WISH}|${QUESTION})(?![a-z])`);
const TURNED_TO_US = new RegExp(`(?<![a-z])(?:${DIRECT}|${BARE})(?![a-z])`);
const LEAD = new RegExp(`^.*?(?<![a-z])(?:${DIRECT}|${WISH})\\s+`);
const POLITE =
  /\b(?:please (?:find|see|note|excuse|forgive|do not|don't (?:reply|hesitate)|ignore|consider)|let me know if you (?:have any )?questions|don't hesitate|bitte (?:beachten|entschuldigen)|would like to thank|i hope|wie geht|how are you|we would like to invite)\b/;
const MOST = 8;

/** What a sender asks of us: one intent a sentence, with the date in it as the day it is due. */
export function readAsks(sentences: readonly Sentence[], whens: readonly Intent[]): Intent[] {
  const asks: Intent[] = [];
  for (const sentence of sentences) {
    if (asks.length >= MOST) break;
    const text = tidy(sentence.text);
    const flat = flatten(text).replace(/[\u2018\u2019]/g, "'");
    const asked = ASKED.test(flat);
    if (text.length < 8 || POLITE.test(flat) || (!asked && !/\?$/.test(text))) continue;
    if (!asked && text.split(' ').length < 3) continue;
    const end = sentence.at(sentence.text.length - 1) + 1;
    const due = whens.find((when) => when.span.start >= sentence.start && when.span.end <= end);
    const lead = LEAD.exec(flat)?.[0].length ?? 0;
    asks.push({
      kind: 'ask',
      text,
      value: {
        what: text.slice(lead < text.length - 3 ? lead : 0).replace(/^[¿¡\s]+|\s*[?.!]+$/g, ''),
        due: due?.kind === 'date' ? due.value.at : null,
      },
      confidence: TURNED_TO_US.test(flat) ? 0.92 : asked ? 0.8 : 0.7,
      span: { part: 'text', start: sentence.start, end },
    });
  }
  return asks;
}

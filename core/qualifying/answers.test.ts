import { splitLayers } from '../reading/email/layers';
import { readIntents } from '../reading/intents/read';
import { toSentences } from '../reading/intents/sentences';
import { proposeAnswers } from './answers';

const QUESTIONS = [
  { id: 'need', label: 'Need', help: 'What do they want to carry, and how much of it?' },
  { id: 'timing', label: 'Timing', help: 'When do they want to start?' },
  { id: 'budget', label: 'Budget', help: 'What can they spend?' },
  { id: 'who', label: 'Who decides', help: 'Who signs, and who else has a say?' },
  { id: 'hills', label: 'Hills', help: 'How steep are their rounds?' },
];

/** Messages written for this test, each with the sentence that answers a question; none where there is none. */
const LABELLED: [text: string, answers: Partial<Record<string, string>>][] = [
  [
    'Hello,\n\nwe run three bakeries in Bristol. We need eight long bikes to replace our vans. It should start by the first of March. Our budget is around 40,000 pounds. My sister and I sign together. Could you send a quote before Thursday?\n\nKind regards\nAnn',
    {
      need: 'We need eight long bikes to replace our vans.',
      timing: 'It should start by the first of March.',
      budget: 'Our budget is around 40,000 pounds.',
      who: 'My sister and I sign together.',
    },
  ],
  [
    'Guten Tag,\n\nwir suchen vier Lastenräder für unsere Kuriere. Kosten dürfen sie höchstens 18.000 Euro. Bei uns entscheidet die Chefin. Im April soll es losgehen.\n\nBeste Grüße\nBo',
    {
      need: 'wir suchen vier Lastenräder für unsere Kuriere.',
      budget: 'Kosten dürfen sie höchstens 18.000 Euro.',
      who: 'Bei uns entscheidet die Chefin.',
    },
  ],
  [
    'Hi Pell,\n\nour rounds are steep, two of the hills are over ten per cent. How much does one cost?\n\nThanks\nCy',
    { hills: 'our rounds are steep, two of the hills are over ten per cent.' },
  ],
  [
    'Dear team,\n\nthe board decides on the twelfth. We have 25,000 euros set aside for this year.\n\nDi',
    { who: 'the board decides on the twelfth.', budget: 'We have 25,000 euros set aside for this year.' },
  ],
  ['Thank you for the lovely talk at the fair.\n\nEd', {}],
  [
    'Hello,\n\nsounds good.\n\n> On Monday Pell wrote:\n> We need twelve bikes and our budget is 90,000 euros.\n',
    {},
  ],
];

const propose = (text: string) => {
  const lines = splitLayers(text, [], '')[0]?.lines ?? [];
  const intents = readIntents(lines, '2026-11-25T09:00:00Z', ['GB']);
  return { text, found: proposeAnswers(QUESTIONS, toSentences(lines), intents) };
};

describe('answers read from a message', () => {
  it.each(LABELLED)('%#: the sentence that answers each question is proposed', (text, answers) => {
    const { found } = propose(text);
    for (const [id, sentence] of Object.entries(answers))
      expect(found.find((one) => one.questionId === id)?.text).toBe(sentence);
    const unasked = QUESTIONS.filter((one) => !(one.id in answers)).map((one) => one.id);
    const wrong = found.filter((one) => unasked.includes(one.questionId) && one.confidence >= 0.75);
    expect(wrong).toEqual([]);
  });
  it('stand where the span says', () => {
    for (const [given] of LABELLED)
      for (const { text, span } of propose(given).found)
        expect(given.slice(span.start, span.end).replace(/\s+/g, ' ')).toBe(text);
  });
  it('a question of theirs is no answer, and nothing quoted is', () => {
    expect(propose('Hello,\n\nhow much does one cost? What is your price?').found).toEqual([]);
    expect(propose(LABELLED[5]?.[0] ?? '').found).toEqual([]);
    const [need] = propose('Hello,\n\nwhat would six long bikes be?').found;
    expect(need).toMatchObject({ questionId: 'need', text: 'what would six long bikes be?' });
  });
});

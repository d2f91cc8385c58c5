import type { Parsed } from '@emporikon/contract';
import { proposeAnswers, type ProposedAnswer, type QuestionFacts } from '@emporikon/core/qualifying/answers';
import { splitLayers } from '@emporikon/core/reading/email/layers';
import { toSentences } from '@emporikon/core/reading/intents/sentences';
import { asIntent, loadIntents } from '../captures/view';
import { requireActor, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { Capture } from '../db/models/captures';
import { Lead, LeadAnswer, Question } from '../db/models/deals';
import { invalid, notFound, stale } from '../http/problems';

/** As many of the newest messages of a lead are read for answers. */
const MOST_READ = 8;

/** What the messages of a lead answer, the surest for each question; a newer message wins between equals. */
export async function answersRead(
  context: Context,
  captures: readonly { id: string }[],
  questions: readonly QuestionFacts[],
): Promise<(ProposedAnswer & { captureId: string })[]> {
  const newest = captures.slice(0, MOST_READ).map((capture) => capture.id);
  const rows = await Capture.findAll({
    attributes: ['id', 'kind', 'message'],
    where: { id: newest },
    transaction: context.tx,
  });
  const intents = newest.length ? await loadIntents(context, newest) : [];
  const best = new Map<string, ProposedAnswer & { captureId: string }>();
  for (const id of newest) {
    const capture = rows.find((row) => row.id === id);
    if (!capture || capture.message.side === 'ours') continue;
    const { text, subject } = capture.message;
    const lines = splitLayers(text, [], subject).find((layer) => layer.kind === 'own')?.lines ?? [];
    const own = intents
      .filter((intent) => intent.captureId === id && intent.fate === 'proposed')
      .map(asIntent);
    for (const answer of proposeAnswers(questions, toSentences(lines), own))
      if (answer.confidence > (best.get(answer.questionId)?.confidence ?? 0))
        best.set(answer.questionId, { ...answer, captureId: id });
  }
  return [...best.values()];
}

/** Where an answer was taken from, checked against the capture: the span must lie in a message of this lead. */
async function checkedSource(
  context: Context,
  leadId: string,
  from: NonNullable<Parsed<'PUT /api/leads/:id/answers/:questionId', 'body'>['from']>,
): Promise<void> {
  const [found] = await context.sequelize.query(
    `SELECT 1 FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id JOIN captures c ON c.id = n.capture_id
      WHERE k.lead_id = :leadId AND c.id = :captureId AND :end <= length(c.message->>'text') AND :start < :end`,
    {
      replacements: { leadId, captureId: from.captureId, start: from.span.start, end: from.span.end },
      transaction: context.tx,
    },
  );
  if (!found.length)
    throw invalid('These words are in no message of this lead.', { fields: { from: 'does not exist' } });
}

/** Answers a qualifying question, by hand or with the words of a message, which are kept as its source. */
export async function answerQuestion(
  context: Context,
  leadId: string,
  questionId: string,
  { answer, version, from }: Parsed<'PUT /api/leads/:id/answers/:questionId', 'body'>,
): Promise<string | null> {
  if (!(await Lead.findByPk(leadId, { transaction: context.tx }))) throw notFound('There is no such lead.');
  if (!(await Question.findByPk(questionId, { transaction: context.tx })))
    throw notFound('There is no such question.');
  if (from) await checkedSource(context, leadId, from);
  const known = await LeadAnswer.findOne({
    where: { leadId, questionId },
    transaction: context.tx,
    lock: true,
  });
  const actor = requireActor(context);
  if (known && version === null) throw stale(rowOf(known));
  const values = {
    answer,
    answeredBy: actor.id,
    answeredAt: context.now(),
    captureId: from?.captureId ?? null,
    span: from?.span ?? null,
  };
  if (known) await context.write.update(known, values, version ?? undefined);
  else await context.write.insert(LeadAnswer, { id: context.newId(), leadId, questionId, ...values });
  return context.write.event('answer question', `Answered “${answer.slice(0, 60)}”`, actor.id);
}

import type { In, Parsed } from '@emporikon/contract';
import { normalizeEmail } from '@emporikon/core/people/emails';
import { fillTemplate, TemplateTrouble } from '@emporikon/core/outreach/template';
import { Op, QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Letter, LetterFile, LetterRecipient, LetterTemplate } from '../db/models/letters';
import { OutboxRow } from '../db/models/outbox';
import { Person } from '../db/models/people';
import { keepOrRefuse, type NewContent } from '../files/contents';
import { conflict, invalid, notFound, stale } from '../http/problems';
import { fold } from '@emporikon/core/people/text';
import { concerned } from '../ledger/concerned';
import type { Concerned } from '../ledger/write';
import { peopleBy } from '../mailboxes/sort';
import type { Answering } from './answering';
import { letterHtml, paragraphs, splitQuote } from './html';
import { mergeDataFor, mergeFields } from './merge';
import { filesOf, letterView, ownLetter, recipientsOf } from './read';

type Wanted = NonNullable<Parsed<'PATCH /api/letters/:id', 'body'>['recipients']>[number];

/** How many files, and how much of them, mail servers take (common practice: 20 MB with their encoding). */
const MOST_FILES = 20;
const MOST_FILE_BYTES = 14 * 1024 * 1024;

/** Each address once, the first of its places; with the person it belongs to. */
async function putRecipients(context: Context, letterId: string, wanted: readonly Wanted[]): Promise<void> {
  const known = await peopleBy(
    context,
    wanted.map(({ address }) => normalizeEmail(address)),
  );
  await LetterRecipient.destroy({ where: { letterId }, transaction: context.tx });
  const seen = new Set<string>();
  for (const [position, one] of wanted.entries()) {
    const address = normalizeEmail(one.address);
    if (seen.has(address)) continue;
    seen.add(address);
    const personId = one.personId ?? known.get(address) ?? null;
    const person = personId ? await Person.findByPk(personId, { transaction: context.tx }) : null;
    await LetterRecipient.create(
      {
        id: context.newId(),
        ...{ letterId, position, address, way: one.way },
        personId: person?.id ?? null,
        name: one.name || (person?.fullName ?? ''),
      },
      { transaction: context.tx },
    );
  }
}

/** The address that somebody is written to: the first of theirs that does not bounce. */
async function addressOf(context: Context, personId: string): Promise<string | null> {
  const [row] = await context.sequelize.query<{ address: string }>(
    `SELECT normalized AS address FROM contact_points WHERE person_id = $personId AND kind = 'email'
      ORDER BY reach = 'gone', reach = 'full', created_at, id LIMIT 1`,
    { bind: { personId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row?.address ?? null;
}

/** Who of the people of a record is called so. @throws 422 where nobody is, or several are */
async function namedPerson(context: Context, name: string, about: Concerned): Promise<string> {
  const people = await context.sequelize.query<{ id: string; name: string }>(
    `SELECT id, full_name AS name FROM people WHERE id = $person::uuid OR company_id = $company::uuid
        OR id IN (SELECT person_id FROM deal_roles WHERE deal_id = $deal::uuid) LIMIT 2000`,
    {
      bind: {
        person: about.personId ?? null,
        company: about.companyId ?? null,
        deal: about.dealId ?? null,
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const wanted = fold(name);
  const called = people.filter((one) => ` ${fold(one.name)} `.includes(` ${wanted} `));
  const [first] = called;
  if (!first || called.length > 1)
    throw invalid(
      first
        ? `Several people here are called ${name}. Write their full name.`
        : `Nobody here is called ${name}.`,
      { fields: { toName: first ? 'is not one person' : 'is nobody here' } },
    );
  return first.id;
}

async function firstRecipients(
  context: Context,
  given: Wanted[] | undefined,
  answering: Answering | null,
  personId: string | null,
): Promise<Wanted[]> {
  if (given) return given;
  if (answering) {
    const as = (way: 'to' | 'cc') => (one: { name: string; address: string }) => ({
      ...one,
      way,
      personId: null,
    });
    return [...answering.to.map(as('to')), ...answering.cc.map(as('cc'))];
  }
  const address = personId ? await addressOf(context, personId) : null;
  return address ? [{ way: 'to', address, name: '', personId }] : [];
}

/** Begins a letter. @throws 422 for a record that does not exist */
export async function beginLetter(
  context: Context,
  { about, recipients, toName, templateId, subject, words }: Parsed<'POST /api/letters', 'body'>,
  answering: Answering | null,
): Promise<{ eventId: string | null; letter: Awaited<ReturnType<typeof letterView>> }> {
  const actor = requireActor(context);
  const known = answering
    ? await peopleBy(
        context,
        answering.to.map(({ address }) => normalizeEmail(address)),
      )
    : new Map<string, string>();
  const [first] = known.values();
  const asked = { ...about, ...(about.personId || !first ? {} : { personId: first }) };
  const whole = Object.values(asked).some(Boolean)
    ? await concerned(context, asked)
    : { personId: null, companyId: null, leadId: null, dealId: null, projectId: null, caseId: null };
  const personId = toName ? await namedPerson(context, toName, whole) : whole.personId;
  const now = context.now();
  const id = context.newId();
  const letter = await context.write.insert(Letter, {
    id,
    authorId: actor.id,
    ...whole,
    personId,
    subject: subject ?? answering?.subject ?? '',
    html: `${words ? paragraphs(words) : ''}${answering?.html ?? ''}`,
    answersId: answering?.captureId ?? null,
    inReplyTo: answering?.inReplyTo ?? null,
    refs: answering?.references ?? [],
    messageId: `<letter.${id}@${actor.email.split('@')[1] ?? 'localhost'}>`,
    createdAt: now,
    updatedAt: now,
  });
  await putRecipients(context, id, await firstRecipients(context, recipients, answering, personId));
  if (templateId) await fillIn(context, letter, templateId);
  const eventId = await context.write.event('begin letter', 'Began a letter', actor.id);
  return { eventId, letter: await letterView(context, letter) };
}

/** @throws 409 for a letter that went out or is about to */
export function requireDraft({ state }: Letter): void {
  if (state === 'waiting') throw conflict('This letter is on its way. Take it back to change it.');
  if (state === 'sent') throw conflict('This letter was sent and cannot be changed.');
}

/** @throws 409 with what stands there where somebody changed it meanwhile */
function requireVersion(letter: Letter, version: number): void {
  if (letter.version !== version)
    throw stale({ version: letter.version, subject: letter.subject, html: letter.html });
}

/** A draft is its writer's alone: it is kept as it is written, and no history tells of it. */
async function keepDraft(context: Context, letter: Letter, patch: Partial<Letter>): Promise<void> {
  await letter.update(
    { ...patch, state: 'draft', trouble: '', updatedAt: context.now() },
    { transaction: context.tx },
  );
}

export async function changeLetter(
  context: Context,
  id: string,
  { version, recipients, html, subject, followUp }: Parsed<'PATCH /api/letters/:id', 'body'>,
): Promise<{ letter: Awaited<ReturnType<typeof letterView>> }> {
  const letter = await ownLetter(context, id, true);
  requireDraft(letter);
  requireVersion(letter, version);
  await keepDraft(context, letter, {
    ...(subject === undefined ? {} : { subject }),
    ...(html === undefined ? {} : { html: letterHtml(html) }),
    ...(followUp === undefined ? {} : { followUp }),
  });
  if (recipients) await putRecipients(context, id, recipients);
  return { letter: await letterView(context, letter) };
}

/** What a template says, in front of what is quoted; a subject only where there is none yet. */
async function fillIn(context: Context, letter: Letter, templateId: string): Promise<void> {
  const template = await LetterTemplate.findByPk(templateId, { transaction: context.tx });
  if (!template) throw notFound('There is no such template.');
  const fields = await mergeFields(context);
  const data = await mergeDataFor(context, letter);
  try {
    const html = fillTemplate(template.html, data, fields, 'html').text;
    const subject = fillTemplate(template.subject, data, fields, 'text').text;
    const [own, quoted] = splitQuote(letter.html);
    const isBlank = !own.replace(/<[^>]*>/g, '').trim();
    await letter.update(
      {
        html: `${isBlank ? '' : own}${letterHtml(html)}${quoted}`,
        ...(letter.subject || !subject ? {} : { subject: subject.slice(0, 300) }),
        templateId,
        updatedAt: context.now(),
      },
      { transaction: context.tx },
    );
  } catch (error) {
    if (error instanceof TemplateTrouble) throw invalid(`${template.name}: ${error.message}`);
    throw error;
  }
}

export async function useTemplate(
  context: Context,
  id: string,
  { version, templateId }: In<'POST /api/letters/:id/template', 'body'>,
): Promise<{ letter: Awaited<ReturnType<typeof letterView>> }> {
  const letter = await ownLetter(context, id, true);
  requireDraft(letter);
  requireVersion(letter, version);
  await fillIn(context, letter, templateId);
  return { letter: await letterView(context, letter) };
}

/** Discards a draft, or a letter that did not go out. What was sent stays. */
export async function discardLetter(context: Context, id: string): Promise<{ eventId: string | null }> {
  const letter = await ownLetter(context, id, true);
  requireDraft(letter);
  for (const row of await recipientsOf(context, id)) await context.write.remove(row);
  for (const row of await LetterFile.findAll({ where: { letterId: id }, transaction: context.tx }))
    await context.write.remove(row);
  for (const row of await OutboxRow.findAll({
    where: { aboutId: id, state: { [Op.in]: ['failed', 'expired', 'unsure'] } },
    transaction: context.tx,
  }))
    await context.write.remove(row);
  await context.write.remove(letter);
  return {
    eventId: await context.write.event(
      'discard letter',
      `Discarded the draft “${letter.subject || 'no subject'}”`,
      requireActor(context).id,
    ),
  };
}

export async function attachFile(
  context: Context,
  id: string,
  content: NewContent,
): Promise<{ file: { id: string; name: string; size: number } }> {
  const letter = await ownLetter(context, id, true);
  requireDraft(letter);
  const files = await filesOf(context, id);
  if (files.length >= MOST_FILES) throw invalid(`A letter takes ${MOST_FILES} files.`);
  const size = content.raw.length;
  if (files.reduce((sum, file) => sum + file.size, size) > MOST_FILE_BYTES)
    throw invalid(
      `${content.name} was not attached: the files of a letter are larger than 14 MB together, which many mail servers refuse.`,
    );
  await keepOrRefuse(context, content);
  const file = await LetterFile.create(
    { id: context.newId(), letterId: id, name: content.name, sha256: content.sha256, addedAt: context.now() },
    { transaction: context.tx },
  );
  return { file: { id: file.id, name: file.name, size } };
}

export async function detachFile(context: Context, id: string): Promise<{ removed: true }> {
  const file = await LetterFile.findByPk(id, { transaction: context.tx });
  if (!file) throw notFound('There is no such file.');
  requireDraft(await ownLetter(context, file.letterId, true));
  await file.destroy({ transaction: context.tx });
  return { removed: true };
}

import type { Letter as LetterView, LetterLine } from '@emporikon/contract/letters';
import type { Outcome } from '@emporikon/contract/outcome';
import { gapsIn } from '@emporikon/core/outreach/template';
import { letterText } from '@emporikon/core/outreach/plainText';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Letter, LetterRecipient } from '../db/models/letters';
import { Person } from '../db/models/people';
import { notFound } from '../http/problems';
import { decodeCursor, pageOf } from '../http/paging';
import { mergeFields } from './merge';
import { splitQuote } from './html';
import { warningsFor } from './warnings';

/** A letter of whoever acts. @throws 404 */
export async function ownLetter(context: Context, id: string, lock = false): Promise<Letter> {
  const letter = await Letter.findOne({
    where: { id, authorId: requireActor(context).id },
    transaction: context.tx,
    ...(lock ? { lock: true } : {}),
  });
  if (!letter) throw notFound('You have no such letter.');
  return letter;
}

export const recipientsOf = (context: Pick<Context, 'tx'>, letterId: string): Promise<LetterRecipient[]> =>
  LetterRecipient.findAll({ where: { letterId }, order: [['position', 'ASC']], transaction: context.tx });

export const asOutcome = (row: LetterRecipient): Outcome => ({
  name: row.name,
  address: row.address,
  personId: row.personId,
  state: row.state,
  status: row.status,
  words: row.words,
  toldAt: row.toldAt?.toISOString() ?? null,
  awayUntil: row.awayUntil,
  answeredAt: row.answeredAt?.toISOString() ?? null,
  openedAt: row.openedAt?.toISOString() ?? null,
  fetchedAt: row.fetchedAt?.toISOString() ?? null,
  clickedAt: row.clickedAt?.toISOString() ?? null,
  clicks: row.clicks ?? 0,
});

interface FileRow {
  id: string;
  name: string;
  size: number;
  sha256: string;
  state: string;
}
export const filesOf = ({ sequelize, tx }: Context, letterId: string): Promise<FileRow[]> =>
  sequelize.query<FileRow>(
    `SELECT l.id, l.name, l.sha256, c.size, c.state FROM letter_files l JOIN file_contents c ON c.sha256 = l.sha256
      WHERE l.letter_id = $letterId ORDER BY l.added_at, l.id`,
    { bind: { letterId }, type: QueryTypes.SELECT, transaction: tx },
  );

/** A letter as its writer sees it. */
export async function letterView(context: Context, letter: Letter): Promise<LetterView> {
  const recipients = await recipientsOf(context, letter.id);
  const person = letter.personId
    ? await Person.findByPk(letter.personId, { attributes: ['id', 'fullName'], transaction: context.tx })
    : null;
  const fields = await mergeFields(context);
  const { id, version, state, subject, html, answersId, templateId, followUp, trouble } = letter;
  return {
    ...{ id, version, state, subject, html, answersId, templateId, followUp, trouble },
    recipients: recipients.map((row) => ({ ...asOutcome(row), way: row.way })),
    about: {
      person: person ? { id: person.id, name: person.fullName } : null,
      companyId: letter.companyId,
      leadId: letter.leadId,
      dealId: letter.dealId,
      projectId: letter.projectId,
      caseId: letter.caseId,
    },
    files: (await filesOf(context, id)).map((file) => ({ id: file.id, name: file.name, size: file.size })),
    gaps: gapsIn(`${subject}\n${splitQuote(html)[0]}`, fields),
    warnings: state === 'draft' ? await warningsFor(context, recipients) : [],
    follows: letter.follows ?? null,
    leavesAt: letter.leavesAt?.toISOString() ?? null,
    sentAt: letter.sentAt?.toISOString() ?? null,
    updatedAt: letter.updatedAt.toISOString(),
  };
}

const MOST_SHOWN = 160;
const beginningOf = (html: string): string =>
  letterText(splitQuote(html.slice(0, 4000))[0])
    .replace(/\s+/g, ' ')
    .slice(0, MOST_SHOWN);

const ABOUT = {
  personId: 'person_id',
  companyId: 'company_id',
  leadId: 'lead_id',
  dealId: 'deal_id',
  projectId: 'project_id',
  caseId: 'case_id',
} as const;

type Asked = { state?: Letter['state'] | undefined; cursor?: string | undefined; limit: number } & {
  [Key in keyof typeof ABOUT]?: string | undefined;
};

/** The letters of whoever acts, newest first; of one record those that are to or about it. */
export async function listLetters(
  context: Context,
  { state, cursor, limit, ...about }: Asked,
): Promise<{ items: LetterLine[]; next: string | null }> {
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const wanted = (Object.keys(ABOUT) as (keyof typeof ABOUT)[]).filter((key) => about[key]);
  const conditions = [
    'l.author_id = $me',
    ...(state ? ['l.state = $state'] : []),
    ...wanted.map((key) =>
      key === 'personId'
        ? '(l.person_id = $personId OR l.id IN (SELECT letter_id FROM letter_recipients WHERE person_id = $personId))'
        : `l.${ABOUT[key]} = $${key}`,
    ),
    ...(last ? ['(l.updated_at, l.id) < ($at::timestamptz, $last::uuid)'] : []),
  ];
  const rows = await context.sequelize.query<{ id: string; key: string }>(
    `SELECT l.id, l.updated_at::text AS key FROM letters l WHERE ${conditions.join(' AND ')} ORDER BY l.updated_at DESC, l.id DESC LIMIT $most`,
    {
      bind: {
        me: requireActor(context).id,
        most: limit + 1,
        ...(state ? { state } : {}),
        ...(last ? { at, last } : {}),
        ...Object.fromEntries(wanted.map((key) => [key, about[key]])),
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const ids = rows.map(({ id }) => id);
  const letters = new Map(
    (await Letter.findAll({ where: { id: ids }, transaction: context.tx })).map((one) => [one.id, one]),
  );
  const recipients = await LetterRecipient.findAll({
    where: { letterId: ids },
    order: [['position', 'ASC']],
    transaction: context.tx,
  });
  return pageOf(
    rows.flatMap(({ id, key }) => {
      const letter = letters.get(id);
      return letter ? [{ letter, key }] : [];
    }),
    limit,
    ({ letter }) => ({
      id: letter.id,
      state: letter.state,
      subject: letter.subject,
      beginning: beginningOf(letter.html),
      recipients: recipients.filter(({ letterId }) => letterId === letter.id).map(asOutcome),
      leavesAt: letter.leavesAt?.toISOString() ?? null,
      sentAt: letter.sentAt?.toISOString() ?? null,
      trouble: letter.trouble,
      updatedAt: letter.updatedAt.toISOString(),
    }),
    ({ letter, key }) => [key, letter.id],
  );
}

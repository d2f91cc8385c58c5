import type { Parsed, Reply } from '@emporikon/contract';
import { wilson } from '@emporikon/core/qualifying/calibration';
import { checkTemplate, fillTemplate } from '@emporikon/core/outreach/template';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { LetterTemplate } from '../db/models/letters';
import { conflict, forbidden, invalid, notFound } from '../http/problems';
import { concerned } from '../ledger/concerned';
import { letterHtml } from './html';
import { mergeDataFor, mergeFields } from './merge';

interface Row {
  id: string;
  version: number;
  name: string;
  folder: string;
  shared: boolean;
  owner_id: string;
  owner: string;
  shortcut: string | null;
  subject: string;
  html: string;
  updated_at: Date;
  sent: number;
  answered: number;
}

/** The templates somebody can use, with how often the letters made from them were answered: those of the team by all of its letters. */
export async function listTemplates(context: Context): Promise<Reply<'GET /api/letter-templates'>> {
  const { id } = requireActor(context);
  const rows = await context.sequelize.query<Row>(
    `SELECT t.*, u.name AS owner, coalesce(f.sent, 0)::int AS sent, coalesce(f.answered, 0)::int AS answered
       FROM letter_templates t JOIN users u ON u.id = t.owner_id
       LEFT JOIN template_answers($since::timestamptz) f ON f.template_id = t.id
      ORDER BY lower(t.folder), lower(t.name), t.id`,
    {
      bind: { since: new Date(context.now().getTime() - 365 * 86_400_000) },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return {
    items: rows.map((row) => {
      const { low, high } = wilson(row.answered, row.sent);
      return {
        ...{ id: row.id, version: row.version, name: row.name, folder: row.folder, shared: row.shared },
        ...{ isMine: row.owner_id === id, owner: row.owner, shortcut: row.shortcut },
        ...{ subject: row.subject, html: row.html, updatedAt: row.updated_at.toISOString() },
        answered: { sent: row.sent, answered: row.answered, low, high },
      };
    }),
  };
}

/** @throws 422 for a shortcut that brings another template already */
async function requireFree(
  context: Context,
  { shortcut, shared, except }: { shortcut: string | null; shared: boolean; except?: string },
): Promise<void> {
  if (!shortcut) return;
  const taken = await context.sequelize.query<{ name: string }>(
    `SELECT name FROM letter_templates WHERE lower(shortcut) = lower($shortcut) AND shared = $shared AND (shared OR owner_id = $me) AND id <> coalesce($except::uuid, '00000000-0000-0000-0000-000000000000'::uuid)`,
    {
      bind: { shortcut, shared, me: requireActor(context).id, except: except ?? null },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  if (taken[0])
    throw invalid(`“${shortcut}” already brings the template “${taken[0].name}”.`, {
      fields: { shortcut: 'is taken' },
    });
}

/** @throws 422 with what is wrong in the text */
async function requireReadable(context: Context, subject: string, html: string): Promise<void> {
  const fields = await mergeFields(context);
  const [inSubject] = checkTemplate(subject, fields);
  if (inSubject) throw invalid(inSubject, { fields: { subject: inSubject } });
  const [inText] = checkTemplate(html, fields);
  if (inText) throw invalid(inText, { fields: { html: inText } });
}

export async function addTemplate(
  context: Context,
  given: Parsed<'POST /api/letter-templates', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  const html = letterHtml(given.html);
  await requireReadable(context, given.subject, html);
  await requireFree(context, given);
  const { id } = await context.write.insert(LetterTemplate, {
    ...given,
    html,
    id: context.newId(),
    ownerId: requireActor(context).id,
    updatedAt: context.now(),
  });
  const eventId = await context.write.event(
    'add template',
    `Added the template ${given.name}`,
    requireActor(context).id,
  );
  return { id, eventId };
}

async function changeable(context: Context, id: string): Promise<LetterTemplate> {
  const template = await LetterTemplate.findByPk(id, { transaction: context.tx, lock: true });
  if (!template) throw notFound('There is no such template.');
  return template;
}

export async function changeTemplate(
  context: Context,
  id: string,
  { version, ...patch }: Parsed<'PATCH /api/letter-templates/:id', 'body'>,
): Promise<{ eventId: string | null }> {
  const template = await changeable(context, id);
  const actor = requireActor(context);
  if (patch.shared === false && template.shared && template.ownerId !== actor.id)
    throw forbidden('Only its owner can take a template back from the team.');
  const next = { ...template.get({ plain: true }), ...patch };
  const html = patch.html === undefined ? template.html : letterHtml(patch.html);
  await requireReadable(context, next.subject, html);
  await requireFree(context, { shortcut: next.shortcut, shared: next.shared, except: id });
  await context.write.update(
    template,
    {
      ...(Object.fromEntries(
        Object.entries(patch).filter(([, value]) => value !== undefined),
      ) as Partial<LetterTemplate>),
      html,
      updatedAt: context.now(),
    },
    version,
  );
  return {
    eventId: await context.write.event('change template', `Changed the template ${next.name}`, actor.id),
  };
}

export async function deleteTemplate(context: Context, id: string): Promise<{ eventId: string | null }> {
  const template = await changeable(context, id);
  const actor = requireActor(context);
  if (template.ownerId !== actor.id && actor.role === 'rep')
    throw conflict(
      'This template belongs to a colleague. Ask them, or a manager, to delete it. Nothing was deleted.',
    );
  await context.write.remove(template);
  return {
    eventId: await context.write.event('delete template', `Deleted the template ${template.name}`, actor.id),
  };
}

/** What is wrong with a template, and how it reads for one person. */
export async function tryTemplate(
  context: Context,
  { subject, html, about }: Parsed<'POST /api/letter-templates/check', 'body'>,
): Promise<Reply<'POST /api/letter-templates/check'>> {
  const fields = await mergeFields(context);
  const safe = letterHtml(html);
  const problems = [...new Set([...checkTemplate(subject, fields), ...checkTemplate(safe, fields)])];
  if (problems.length) return { problems, subject, html: safe, missing: [] };
  const all = Object.values(about).some(Boolean) ? await concerned(context, about) : {};
  const data = await mergeDataFor(context, all);
  const filled = fillTemplate(safe, data, fields, 'html');
  const head = fillTemplate(subject, data, fields, 'text');
  return {
    problems: [],
    subject: head.text,
    html: letterHtml(filled.text),
    missing: [...new Set([...head.missing, ...filled.missing])],
  };
}

import { asksFor, replaceValue } from '@emporikon/core/query/replace';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Form } from '../db/models/forms';
import { RhythmRow } from '../db/models/round';
import { ViewRow } from '../db/models/views';
import { VisibilityDefault } from '../db/models/visibility';

/** A word of the organisation's that records carry, and where else it is named. */
export interface Word {
  of: 'tag' | 'source';
  word: string;
}
const FIELDS: Readonly<Record<Word['of'], ReadonlySet<string>>> = {
  tag: new Set(['tags']),
  source: new Set(['source']),
};

const inTx = (context: Context) => ({ transaction: context.tx });

async function viewsWith(context: Context, { of, word }: Word): Promise<ViewRow[]> {
  const views = await ViewRow.findAll(inTx(context));
  return views.filter(({ query }) => query.filter && asksFor(query.filter, FIELDS[of], word));
}

async function formsWith(context: Context, { of, word }: Word): Promise<Form[]> {
  const forms = await Form.findAll(inTx(context));
  return forms.filter((form) => (of === 'tag' ? form.tags.includes(word) : form.source === word));
}

const rhythmsWith = (context: Context, { of, word }: Word): Promise<RhythmRow[]> =>
  of === 'tag'
    ? RhythmRow.findAll({ where: { kind: 'tag', value: word }, ...inTx(context) })
    : Promise.resolve([]);

const defaultsWith = (context: Context, { of, word }: Word): Promise<VisibilityDefault[]> =>
  of === 'source'
    ? VisibilityDefault.findAll({ where: { source: word }, ...inTx(context) })
    : Promise.resolve([]);

/** What names a word, in words. Views are told as far as whoever asks sees them. */
export async function usesOf(context: Context, word: Word): Promise<string[]> {
  return [
    ...(await formsWith(context, word)).map(({ name }) => `the form “${name}”`),
    ...(await rhythmsWith(context, word)).map(() => 'a rhythm'),
    ...(await defaultsWith(context, word)).map(() => 'a rule for who may see new leads'),
    ...(await viewsWith(context, word)).map(({ name }) => `the view “${name}”`),
  ];
}

/** Whether any record carries a word already. */
export async function isInUse(context: Context, { of, word }: Word): Promise<boolean> {
  const [row] = await context.sequelize.query<{ found: boolean }>(
    of === 'tag'
      ? 'SELECT EXISTS (SELECT 1 FROM people WHERE tags @> ARRAY[$word]) OR EXISTS (SELECT 1 FROM deals WHERE tags @> ARRAY[$word]) AS found'
      : 'SELECT EXISTS (SELECT 1 FROM leads WHERE source = $word) AS found',
    { bind: { word }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row?.found ?? false;
}

const withTag = (tags: readonly string[], from: string, to: string | null): string[] => [
  ...new Set(tags.flatMap((tag) => (tag === from ? (to ?? []) : tag))),
];

/**
 * Puts another word in the place of one wherever it is named beside the records. Where a word is taken away, views that
 * ask for it stay as they are and find nobody, until somebody changes them.
 */
export async function replaceUses(context: Context, word: Word, to: string | null): Promise<void> {
  for (const form of await formsWith(context, word))
    await context.write.update(
      form,
      word.of === 'tag' ? { tags: withTag(form.tags, word.word, to) } : { source: to ?? form.source },
    );
  for (const rhythm of await rhythmsWith(context, word)) {
    const other = to && (await RhythmRow.findOne({ where: { kind: 'tag', value: to }, ...inTx(context) }));
    if (to && !other) await context.write.update(rhythm, { value: to });
    else await context.write.remove(rhythm);
  }
  if (to === null) return;
  for (const rule of await defaultsWith(context, word)) {
    const { kind } = rule;
    const other = await VisibilityDefault.findOne({ where: { kind, source: to }, ...inTx(context) });
    if (other) await context.write.remove(rule);
    else await context.write.update(rule, { source: to });
  }
  for (const view of await viewsWith(context, word)) {
    const { filter } = view.query;
    if (filter)
      await context.write.update(view, {
        query: { ...view.query, filter: replaceValue(filter, FIELDS[word.of], word.word, to) },
      });
  }
}

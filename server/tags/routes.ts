import type { Tag } from '@emporikon/contract/tags';
import { QueryTypes } from 'sequelize';
import { startOnAll, type Started } from '../bulk/startOnAll';
import { requireActor, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { cappedCount } from '../db/counting';
import { TagMeaningRow } from '../db/models/fields';
import type { Handlers } from '../http/mount';
import { conflict, invalid } from '../http/problems';
import { moveList, removeList, renameList } from './lists';
import { isInUse, replaceUses, usesOf, type Word } from './words';

const MOST = 500;

const summed = (kind: 'p' | 'd'): string =>
  `coalesce(sum(c.records) FILTER (WHERE c.kind = '${kind}'), 0)::int`;

const listTags = (context: Context): Promise<Tag[]> =>
  context.sequelize.query<Tag>(
    `SELECT c.tag, ${summed('p')} AS people, ${summed('d')} AS deals, m.meaning
       FROM tag_counts c LEFT JOIN tag_meanings m ON m.tag = c.tag WHERE c.kind IN ('p', 'd')
      GROUP BY c.tag, m.meaning HAVING sum(c.records) > 0 ORDER BY sum(c.records) DESC, c.tag LIMIT ${MOST}`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );

/** Each source is found from the one before it, so that no more rows are read than there are sources and are counted. */
const listSources = (context: Context): Promise<{ source: string; leads: number }[]> =>
  context.sequelize.query(
    `WITH RECURSIVE s (source, n) AS (
       (SELECT source, 1 FROM leads ORDER BY source LIMIT 1)
       UNION ALL SELECT (SELECT l.source FROM leads l WHERE l.source > s.source ORDER BY l.source LIMIT 1), s.n + 1
         FROM s WHERE s.source IS NOT NULL AND s.n < ${MOST})
     SELECT s.source, ${cappedCount('leads l WHERE l.source = s.source')} AS leads FROM s WHERE s.source IS NOT NULL ORDER BY leads DESC, source`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );

/** The changes of records that carry a word. */
async function startChanges(context: Context, { of, word }: Word, to: string | null): Promise<Started[]> {
  if (of === 'source')
    return startOnAll(
      context,
      'lead',
      [{ do: 'source', to: to ?? '' }],
      'SELECT id FROM leads WHERE source = $word',
      { word },
    );
  const steps = [{ do: 'retag' as const, from: word, to }];
  return [
    ...(await startOnAll(context, 'person', steps, 'SELECT id FROM people WHERE tags @> ARRAY[$word]', {
      word,
    })),
    ...(await startOnAll(context, 'deal', steps, 'SELECT id FROM deals WHERE tags @> ARRAY[$word]', {
      word,
    })),
  ];
}

async function giveMeaning(context: Context, from: string, to: string | null): Promise<void> {
  const meaning = await TagMeaningRow.findOne({ where: { tag: from }, transaction: context.tx });
  if (!meaning) return;
  const other = to && (await TagMeaningRow.findOne({ where: { tag: to }, transaction: context.tx }));
  if (to && !other) await context.write.update(meaning, { tag: to });
  else await context.write.remove(meaning);
}

/** Renames a word, makes it one with another, or takes it away: on every record, and wherever else it is named. */
async function changeWord(
  context: Context,
  word: Word,
  to: string | null,
): Promise<{ changes: Started[]; also: string[]; eventId: string | null }> {
  if (to === word.word)
    throw invalid('This is what it is called already.', { fields: { to: 'is the same' } });
  const also = await usesOf(context, word);
  const { changes, eventId } = await pastSight(context, async () => {
    const started = await startChanges(context, word, to);
    await replaceUses(context, word, to);
    if (word.of === 'tag') await giveMeaning(context, word.word, to);
    const done =
      to === null ? `Took away the ${word.of} ${word.word}` : `Renamed the ${word.of} ${word.word} to ${to}`;
    return {
      changes: started,
      eventId: await context.write.event(`rename ${word.of}`, done, requireActor(context).id),
    };
  });
  if (!changes.length && eventId === null) throw conflict(`Nothing has the ${word.of} “${word.word}”.`);
  return { changes, eventId, also };
}

async function setMeaning(context: Context, tag: string, meaning: Tag['meaning']): Promise<string | null> {
  const row = await TagMeaningRow.findOne({ where: { tag }, transaction: context.tx });
  if (row && meaning) await context.write.update(row, { meaning });
  else if (row) await context.write.remove(row);
  else if (meaning) await context.write.insert(TagMeaningRow, { id: context.newId(), tag, meaning });
  return context.write.event('colour tag', `Changed what the tag ${tag} means`, requireActor(context).id);
}

const usesWith = async (
  context: Context,
  word: Word,
  to: string | undefined,
): Promise<{ uses: string[]; isThere: boolean }> => ({
  uses: await usesOf(context, word),
  isThere: to !== undefined && to !== word.word && (await isInUse(context, { of: word.of, word: to })),
});

export const tagHandlers: Handlers = {
  'GET /api/tags': async ({ context }) => ({ items: await listTags(context) }),
  'GET /api/tags/uses': ({ query, context }) => usesWith(context, { of: 'tag', word: query.tag }, query.to),
  'POST /api/tags/changes': ({ body, context }) =>
    changeWord(context, { of: 'tag', word: body.tag }, body.to),
  'PUT /api/tags/meaning': async ({ body, context }) => ({
    eventId: await setMeaning(context, body.tag, body.meaning),
  }),
  'GET /api/sources': async ({ context }) => ({ items: await listSources(context) }),
  'GET /api/sources/uses': ({ query, context }) =>
    usesWith(context, { of: 'source', word: query.source }, query.to),
  'POST /api/sources/changes': ({ body, context }) =>
    changeWord(context, { of: 'source', word: body.source }, body.to),
  'PATCH /api/lists/:id': ({ params, body, context }) => renameList(context, params.id, body.name),
  'POST /api/lists/:id/moves': ({ params, body, context }) => moveList(context, params.id, body.toId),
  'DELETE /api/lists/:id': async ({ params, context }) => ({ eventId: await removeList(context, params.id) }),
};

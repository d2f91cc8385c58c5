import { followsOf, type Follows } from '@emporikon/core/outreach/tracking';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { homeCountry } from '../consent/language';
import { signIds } from '../consent/links';
import { Letter, LetterLink, LetterRecipient, TrackingRulesRow } from '../db/models/letters';
import { withLinks } from './html';
import type { Outgoing } from './outgoing';

/** What somebody said of being followed; null where they never did. */
export async function wishOf(
  { sequelize, tx }: Context,
  personId: string,
): Promise<'agreed' | 'unconfirmed' | 'withdrawn' | null> {
  const [row] = await sequelize.query<{ state: 'agreed' | 'unconfirmed' | 'withdrawn' }>(
    `SELECT s.state FROM consent_states s JOIN purposes p ON p.id = s.purpose_id
      WHERE s.person_id = $personId::uuid AND p.kind = 'tracking' AND p.retired_at IS NULL AND s.topic_id IS NULL`,
    { bind: { personId }, type: QueryTypes.SELECT, transaction: tx },
  );
  return row?.state ?? null;
}

/** A letter to several is not followed, as nobody could tell who of them read it; nor one to somebody who is not known. */
async function decide(context: Context, recipients: readonly LetterRecipient[]): Promise<Follows> {
  const [only, ...others] = recipients;
  if (!only?.personId || others.length) return 'nothing';
  const rules = await TrackingRulesRow.findOne({ rejectOnEmpty: true, transaction: context.tx });
  return followsOf(rules, await homeCountry(context, only.personId), await wishOf(context, only.personId));
}

/** The links of a letter, kept once: a second try has the same. */
async function linksOf(context: Context, letterId: string, html: string): Promise<Map<string, string>> {
  const urls = new Set<string>();
  withLinks(html, (url) => (urls.add(url), url));
  const known = await LetterLink.findAll({ where: { letterId }, transaction: context.tx });
  for (const url of urls)
    if (!known.some((link) => link.url === url))
      known.push(
        await LetterLink.create({ id: context.newId(), letterId, url }, { transaction: context.tx }),
      );
  return new Map(known.map(({ url, id }) => [url, id]));
}

/** A letter as its reader gets it, where its reading is recorded; null where it goes out as it was written. */
export async function followed(
  tools: Tools,
  { letter }: Pick<Outgoing, 'letter'>,
): Promise<{ html: string; mark: string } | null> {
  return runInTransaction(tools, null, async (context) => {
    const { id, html } = letter;
    const kept = await Letter.findByPk(id, { transaction: context.tx, lock: true });
    const recipients = await LetterRecipient.findAll({ where: { letterId: id }, transaction: context.tx });
    const follows = kept?.follows ?? (await decide(context, recipients));
    if (kept && !kept.follows) await kept.update({ follows }, { transaction: context.tx });
    if (follows === 'nothing') return null;
    const { publicUrl } = context.house;
    const links = follows === 'opens' ? new Map<string, string>() : await linksOf(context, id, html);
    const paths = new Map<string, string>();
    for (const [url, linkId] of links)
      paths.set(url, `${publicUrl}/l/${await signIds(context, 'link', [linkId])}`);
    const mark =
      follows === 'clicks'
        ? ''
        : `<img src="${publicUrl}/o/${await signIds(context, 'open', [id])}" width="1" height="1" alt="" style="border:0">`;
    return { html: withLinks(html, (url) => paths.get(url) ?? url), mark };
  });
}

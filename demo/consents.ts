import { runInTransaction, type Actor, type Tools } from '@emporikon/server/commands/context';
import { addArea } from '@emporikon/server/consent/areas';
import { addTopic } from '@emporikon/server/consent/purposes';
import {
  currentPurposes,
  currentTopics,
  keepStatements,
  type Said,
} from '@emporikon/server/consent/statements';
import { ContactPoint } from '@emporikon/server/db/models/people';

/** Around cities in which the firm sells, as boxes roughly drawn: west, south, east, north. */
const AREAS = [
  { name: 'Greater Lisbon', box: [-9.5, 38.55, -8.95, 38.95] },
  { name: 'Porto and around', box: [-8.75, 41.05, -8.45, 41.3] },
  { name: 'Utrecht and Amersfoort', box: [4.9, 51.98, 5.5, 52.25] },
  { name: 'London', box: [-0.51, 51.28, 0.33, 51.69] },
] as const;
const TOPICS = [
  {
    purpose: 'Service',
    name: 'Workshop days near you',
    words: 'Tell me when your workshop comes to my town.',
    byArea: true,
    translations: {
      de: {
        name: 'Werkstatttage in Ihrer Nähe',
        words: 'Sagen Sie mir, wann Ihre Werkstatt in meine Stadt kommt.',
      },
      pt: {
        name: 'Dias de oficina perto de si',
        words: 'Avisem-me quando a vossa oficina vier à minha cidade.',
      },
    },
  },
  {
    purpose: 'News',
    name: 'New bikes and trailers',
    words: 'Tell me about new bikes and trailers.',
    byArea: false,
    translations: {
      de: { name: 'Neue Räder und Anhänger', words: 'Informieren Sie mich über neue Räder und Anhänger.' },
      pt: { name: 'Novas bicicletas e reboques', words: 'Informem-me sobre novas bicicletas e reboques.' },
    },
  },
  {
    purpose: 'News',
    name: 'Test rides near you',
    words: 'Invite me to test rides in my area.',
    byArea: true,
    translations: {
      de: {
        name: 'Probefahrten in Ihrer Nähe',
        words: 'Laden Sie mich zu Probefahrten in meiner Gegend ein.',
      },
      pt: {
        name: 'Passeios de teste perto de si',
        words: 'Convidem-me para passeios de teste na minha zona.',
      },
    },
  },
];
const FORM = { words: 'You may write to me about cargo bikes now and then.', source: 'Ask us about a bike' };
const FAIR = { words: 'Signed the list at the Utrecht fair', source: 'Spring fair' };

/** What people agreed to: most to news, fewer to service and offers, some still to be confirmed, and a few withdrew. */
export async function loadConsents(
  at: (hoursAgo: number) => Tools,
  actorOf: (name: string) => Actor,
): Promise<void> {
  await runInTransaction(at(25 * 24), actorOf('Mara Quill'), async (context) => {
    const purposes = await currentPurposes(context);
    for (const { name, box } of AREAS) {
      const [west, south, east, north] = box;
      await addArea(context, { name, corners: [west, south, east, south, east, north, west, north] });
    }
    for (const { purpose, ...topic } of TOPICS)
      await addTopic(context, {
        ...topic,
        purposeId: purposes.find(({ name }) => name === purpose)?.id ?? '',
      });
  });
  await runInTransaction(at(24 * 24), null, async (context) => {
    const [service, news, offers] = await currentPurposes(context);
    const topics = await currentTopics(context);
    const contacts = await ContactPoint.findAll({
      where: { kind: 'email' },
      order: ['createdAt', 'id'],
      transaction: context.tx,
    });
    for (const [n, { personId, value: address }] of contacts.entries()) {
      const said = (
        purposeId: string | undefined,
        state: Said['state'],
        how: Said['how'],
        shown = FORM,
      ): Said[] => (purposeId ? [{ personId, purposeId, state, how, address, ...shown }] : []);
      await keepStatements(context, personId, [
        ...(n % 5 < 3 ? said(news?.id, 'agreed', n % 2 ? 'confirmed' : 'import', n % 2 ? FORM : FAIR) : []),
        ...(n % 5 === 3 ? said(news?.id, 'unconfirmed', 'form') : []),
        ...(n % 3 === 0
          ? said(service?.id, 'agreed', 'page', { words: service?.words ?? '', source: 'their page' })
          : []),
        ...(n % 7 === 0 ? said(offers?.id, 'agreed', 'confirmed') : []),
      ]);
      const subscribed = topics.filter(
        (topic, place) => n % 5 < 3 && topic.purposeId === news?.id && n % (place + 2) === 0,
      );
      await keepStatements(
        context,
        personId,
        subscribed.map(({ id: topicId, purposeId, words }) => ({
          ...{ personId, purposeId, topicId, state: 'agreed' as const, how: 'page' as const, address },
          ...{ words: words ?? '', source: 'their page' },
        })),
      );
      if (n % 17 === 4)
        await keepStatements(
          context,
          personId,
          said(news?.id, 'withdrawn', 'one-click', { words: '', source: 'their mail program' }),
        );
    }
    // As an import it is told by no line in the history of each of them.
    await context.write.event('import consents', 'Took over who agreed to what', null);
  });
}

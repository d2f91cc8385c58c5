import type { FormField } from '@emporikon/contract/forms';
import { readArrival } from '@emporikon/server/captures/arrivals';
import { storeCapture } from '@emporikon/server/captures/store';
import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';
import { PhoneLine } from '@emporikon/server/db/models/calls';
import { CustomField, List } from '@emporikon/server/db/models/fields';
import { Form } from '@emporikon/server/db/models/forms';
import { takeEvent } from '@emporikon/server/calls/webhook';
import { submitForm } from '@emporikon/server/forms/submit';

const LINES: readonly [string, string][] = [
  ['Pell Garrick', '+442079460100'],
  ['Ines Tolland', '+442079460101'],
  ['Mara Quill', '+442079460102'],
];

const field = (
  name: string,
  label: string,
  stands: FormField['field'],
  over: Partial<FormField> = {},
): FormField => ({
  name,
  label,
  field: stands,
  kind: 'line',
  required: false,
  help: '',
  options: [],
  ...over,
});

const PUBLIC: FormField[] = [
  field('name', 'Your name', 'fullName', { required: true }),
  field('email', 'Your email', 'email', { required: true }),
  field('phone', 'Your phone', 'phone', { help: 'If you would rather be called.' }),
  field('company', 'Your company', 'companyName'),
  field('what', 'What do you want to carry?', null, { kind: 'text', required: true }),
];
const DESK: FormField[] = [
  field('name', 'Name', 'fullName', { required: true }),
  field('company', 'Company', 'companyName'),
  field('phone', 'Phone', 'phone'),
  field('email', 'Email', 'email'),
  field('rode', 'Rode which bike?', 'custom:rode', {
    kind: 'choice',
    options: ['Long bike', 'Trailer', 'Both'],
  }),
  field('said', 'What they said', null, { kind: 'text' }),
];

const PROFILE = `<!doctype html><html lang="en"><head><title>Callum Redfern | Rollcall</title>
<script type="application/ld+json">{"@context":"https://schema.org","@type":"ProfilePage","mainEntity":{"@type":"Person","name":"Callum Redfern","jobTitle":"Operations Director","worksFor":{"@type":"Organization","name":"Redfern Catering"},"email":"mailto:callum@redferncatering.example","telephone":"0113 496 0312"}}</script></head>
<body><h1>Callum Redfern</h1><h2>Operations Director at Redfern Catering</h2><p>Weddings, wakes and works canteens. Email: callum@redferncatering.example</p></body></html>`;

const CARD =
  'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Greta Solheim\r\nN:Solheim;Greta;;;\r\nORG:Solheim Blomster\r\nTITLE:Daglig leder\r\nTEL;VALUE=uri;TYPE=cell:tel:+4740600217\r\nEMAIL:greta@solheimblomster.example\r\nEND:VCARD\r\n';

async function setUp(context: Context, actors: ReadonlyMap<string, Actor>): Promise<void> {
  for (const [name, number] of LINES) {
    const actor = actors.get(name);
    if (actor) await context.write.insert(PhoneLine, { id: context.newId(), userId: actor.id, number });
  }
  await context.write.insert(CustomField, {
    id: context.newId(),
    key: 'rode',
    label: 'Rode which bike',
    kind: 'choice',
    options: ['Long bike', 'Trailer', 'Both'],
    position: 1,
    active: true,
  });
  const list = await context.write.insert(List, {
    id: context.newId(),
    name: 'Spring fair',
    createdAt: context.now(),
  });
  const base = { recognise: 'email' as const, ownerId: null, createdAt: context.now(), active: true };
  await context.write.insert(Form, {
    id: context.newId(),
    ...base,
    slug: 'ask-us',
    name: 'Ask us about a bike',
    kind: 'public',
    fields: PUBLIC,
    consent: 'You may write to me about cargo bikes now and then.',
    thanks: 'We answer within a working day.',
    listId: null,
    tags: ['website'],
    source: 'website',
    leadStatus: 'new',
    filesItself: false,
  });
  await context.write.insert(Form, {
    id: context.newId(),
    ...base,
    slug: 'test-ride',
    name: 'Test ride at the fair',
    kind: 'desk',
    fields: DESK,
    consent: '',
    thanks: '',
    listId: list.id,
    tags: ['fair'],
    source: 'fair',
    leadStatus: 'new',
    filesItself: true,
  });
  await context.write.event('load demo', 'Set up lines and forms', null);
}

/** Phone lines, a field of the house's own, a list, two forms, and what came in by them. */
export async function loadChannels(
  at: (hoursAgo: number) => Tools,
  actors: ReadonlyMap<string, Actor>,
): Promise<void> {
  await runInTransaction(at(20 * 24), null, (context) => setUp(context, actors));
  const pell = actors.get('Pell Garrick') ?? null;
  const profile = await readArrival(at(30), pell, Buffer.from(PROFILE), {
    mediaType: 'text/html',
    url: 'https://rollcall.example/people/callum-redfern',
  });
  await runInTransaction(at(30), pell, (context) => storeCapture(context, profile, { by: 'clipper' }));
  const card = await readArrival(at(28), null, Buffer.from(CARD), { mediaType: 'text/vcard' });
  await runInTransaction(at(28), null, (context) => storeCapture(context, card, { by: 'upload' }));
  await runInTransaction(at(7), null, async (context) => {
    const form = await Form.findOne({ where: { slug: 'ask-us' }, transaction: context.tx });
    if (form)
      await submitForm(context, form, {
        answers: {
          name: 'Tamsin Vale',
          email: 'tamsin.vale@petalandstem.example',
          company: 'Petal & Stem',
          what: 'Buckets of flowers, forty kilos, up a hill. We need two long bikes by the end of March and can spend about £14,000. Could you call me next week?',
        },
        agreed: false,
      });
  });
  const startedAt = at(5).now().toISOString();
  for (const [index, type] of (['call.ringing', 'call.ended'] as const).entries())
    await runInTransaction(at(5), null, (context) =>
      takeEvent(context, `demo-${index}`, {
        type,
        data: {
          id: 'demo-missed-call',
          direction: 'in',
          from: '+351910555014',
          to: LINES[0]?.[1] ?? '',
          startedAt,
          ...(type === 'call.ended' ? { endedAt: startedAt } : {}),
        },
      }),
    );
}

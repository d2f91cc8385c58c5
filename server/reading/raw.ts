import { countedPlainly } from '@emporikon/core/people/counts';
import { parseCards } from '@emporikon/core/formats/vcard';
import { readCall, readThing, type FileKind } from '@emporikon/core/reading/read';
import { readForm } from '@emporikon/core/reading/form/read';
import type { PageOptions } from '@emporikon/core/reading/page/read';
import type { CallFacts, Reading } from '@emporikon/core/reading/types';
import { z } from 'zod';
import { invalid, unsupported } from '../http/problems';
import { ClaimField } from '@emporikon/contract/fields';

const KINDS: Record<string, FileKind> = {
  'message/rfc822': 'email',
  'text/html': 'page',
  'text/vcard': 'card',
  'text/plain': 'text',
};

const Answer = z.object({
  name: z.string().max(120).default(''),
  label: z.string().max(200).default(''),
  value: z.string().max(10_000),
  field: ClaimField.nullish(),
});
/** A call or a form as a program hands it in. */
const Handed = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('call'),
    id: z.string().max(200).default(''),
    direction: z.enum(['in', 'out']).default('in'),
    from: z.string().max(60).default(''),
    to: z.string().max(60).default(''),
    startedAt: z.iso.datetime({ offset: true }).optional(),
    answeredAt: z.iso.datetime({ offset: true }).nullish(),
    endedAt: z.iso.datetime({ offset: true }).nullish(),
    text: z.string().max(200_000).default(''),
  }),
  z.object({
    kind: z.literal('form'),
    form: z.string().max(200).default('form'),
    id: z.string().max(200).optional(),
    page: z.string().max(2000).nullish(),
    answers: z.union([z.array(Answer).max(200), z.record(z.string().max(200), z.string().max(10_000))]),
  }),
]);

function readHanded(raw: Buffer, options: PageOptions): Reading {
  let json: unknown;
  try {
    json = JSON.parse(raw.toString('utf8'));
  } catch {
    throw invalid('This is not JSON; nothing was captured.');
  }
  const parsed = Handed.safeParse(json);
  if (!parsed.success) {
    const fields = Object.fromEntries(
      parsed.error.issues.map((issue) => [issue.path.join('.') || 'kind', issue.message]),
    );
    throw invalid('A captured call or form needs its kind and its parts; nothing was captured.', { fields });
  }
  const given = parsed.data;
  if (given.kind === 'form') {
    const answers = Array.isArray(given.answers)
      ? given.answers.map((answer) => ({
          name: answer.name,
          label: answer.label,
          value: answer.value,
          ...(answer.field === undefined ? {} : { field: answer.field }),
        }))
      : Object.entries(given.answers).map(([label, value]) => ({ name: label, label, value }));
    return readForm({ form: given.form, answers, page: given.page ?? null }, options);
  }
  const startedAt = given.startedAt ?? options.receivedAt ?? new Date(0).toISOString();
  const call: CallFacts = {
    id: given.id,
    direction: given.direction,
    from: given.from,
    to: given.to,
    startedAt,
    answeredAt: given.answeredAt ?? null,
    endedAt: given.endedAt ?? null,
  };
  const reading = readCall(given.text, { ...options, receivedAt: startedAt, call });
  return withNumber(reading, given.direction === 'in' ? given.from : given.to);
}

/** The number at the other end is a claim of its own, the surest there is of a call. */
function withNumber(reading: Reading, number: string): Reading {
  if (!/^\+\d{6,15}$/.test(number) || reading.claims.some((claim) => claim.normalized === number))
    return reading;
  return {
    ...reading,
    claims: [
      ...reading.claims,
      {
        field: 'phone',
        value: number,
        normalized: number,
        type: 'work',
        confidence: 0.97,
        source: 'the exchange',
      },
    ],
  };
}

/**
 * Reads one raw thing by its media type.
 * @throws 415 for a type that is not read, 422 for JSON that is neither a call nor a form
 */
export async function readRaw(raw: Buffer, mediaType: string, options: PageOptions): Promise<Reading> {
  if (mediaType === 'application/json') return readHanded(raw, options);
  const kind = KINDS[mediaType];
  if (!kind) throw unsupported(`${mediaType || 'Content without a type'} is not read here.`);
  if (kind === 'text') {
    const start = raw.subarray(0, 200).toString('latin1').trimStart();
    if (/^BEGIN:VCARD/i.test(start)) return readThing('card', raw, options);
    if (/^<(?:!doctype html|html)/i.test(start)) return readThing('page', raw, options);
  }
  return readThing(kind, raw, options);
}

const MOST_CARDS = 50;

/**
 * A file of several cards is as many captures.
 * @throws 422 for more than 50, which are for the import bench
 */
export function splitCards(raw: Buffer, mediaType: string): Buffer[] {
  if (mediaType !== 'text/vcard' && !/^\s*BEGIN:VCARD/i.test(raw.subarray(0, 200).toString('latin1')))
    return [raw];
  const { cards } = parseCards(raw);
  if (!cards.length) throw invalid('There is no card in this file that could be read; nothing was captured.');
  if (cards.length > MOST_CARDS)
    throw invalid(
      `There are ${countedPlainly(cards.length, 'card')} in this file; nothing was captured. Use Import, which takes as many as you like.`,
    );
  return cards.length === 1 ? [raw] : cards.map((card) => Buffer.from(`${card.raw}\r\n`, 'utf8'));
}

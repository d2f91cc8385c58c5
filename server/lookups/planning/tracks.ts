import { shrunk, trusted, type Rate } from '@emporikon/core/lookups/track';
import type { FactField, Subject } from '@emporikon/core/lookups/facts';
import { QueryTypes } from 'sequelize';
import type { Context } from '../../commands/context';
import type { LookUpSource } from '../../outside/lookups/source';

type Database = Pick<Context, 'sequelize' | 'tx'>;

/** How often a source knew, and how often what it said was kept, by what it was about. */
export class Tracks {
  constructor(
    private readonly asked: ReadonlyMap<string, number>,
    private readonly found: ReadonlyMap<string, number>,
    private readonly decided: ReadonlyMap<string, Rate>,
  ) {}

  coverage(source: LookUpSource, about: Subject, field: FactField): number {
    const believed = source.tells.find((tell) => tell.about === about && tell.field === field);
    return shrunk(
      { hits: this.found.get(`${source.key}.${about}.${field}`) ?? 0, of: this.asked.get(source.key) ?? 0 },
      { mean: believed?.coverage ?? 0, weight: BELIEF },
    );
  }

  kept(source: string, about: Subject, field: FactField): Rate {
    return this.decided.get(`${source}.${about}.${field}`) ?? { hits: 0, of: 0 };
  }

  accuracy(source: LookUpSource, about: Subject, field: FactField): number {
    const believed = source.tells.find((tell) => tell.about === about && tell.field === field);
    return trusted(believed?.accuracy ?? 0.5, this.kept(source.key, about, field));
  }

  /** Of all its answers together. */
  of(source: string): { asked: number; kept: Rate } {
    const rates = [...this.decided].filter(([key]) => key.startsWith(`${source}.`)).map(([, rate]) => rate);
    return {
      asked: this.asked.get(source) ?? 0,
      kept: {
        hits: rates.reduce((sum, one) => sum + one.hits, 0),
        of: rates.reduce((sum, one) => sum + one.of, 0),
      },
    };
  }
}

/** How many questions the belief in a source's coverage is worth. */
const BELIEF = 10;

/**
 * Measures the sources by their own answers of the last half year: how often they knew, and which were kept. An answer
 * counts as kept when a person took it, when it agreed with what stood, or when it has stood for a week; as not kept
 * when it was refused or replaced by hand.
 */
export async function loadTracks(context: Database): Promise<Tracks> {
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    context.sequelize.query<Row>(sql, { type: QueryTypes.SELECT, transaction: context.tx });
  const asked = await ask<{ source: string; n: number }>(
    `SELECT source, count(*)::int AS n FROM look_ups WHERE state IN ('found', 'nothing') AND asked_at > now() - interval '180 days' GROUP BY source`,
  );
  const found = await ask<{ source: string; about: string; field: string; n: number }>(
    `SELECT l.source, f->>'about' AS about, f->>'field' AS field, count(DISTINCT l.id)::int AS n
       FROM look_ups l, jsonb_array_elements(l.answer->'facts') f
      WHERE l.state = 'found' AND l.asked_at > now() - interval '180 days' GROUP BY 1, 2, 3`,
  );
  const decided = await ask<{ source: string; about: string; field: string; hits: number; of: number }>(
    `SELECT source, about, field, count(*) FILTER (WHERE kept)::int AS hits, count(*)::int AS "of" FROM (
       SELECT l.source, CASE WHEN c.person_id IS NULL THEN 'company' ELSE 'person' END AS about, c.field,
              coalesce(c.kept, CASE WHEN c.fate = 'current' AND c.created_at < now() - interval '7 days' THEN true END) AS kept
         FROM claims c JOIN look_ups l ON l.id = c.look_up_id WHERE c.created_at > now() - interval '180 days') d
      WHERE kept IS NOT NULL GROUP BY 1, 2, 3`,
  );
  return new Tracks(
    new Map(asked.map((row) => [row.source, row.n])),
    new Map(found.map((row) => [`${row.source}.${row.about}.${row.field}`, row.n])),
    new Map(
      decided.map((row) => [`${row.source}.${row.about}.${row.field}`, { hits: row.hits, of: row.of }]),
    ),
  );
}

import { nameHolds } from '../search/filter';

export interface DealFilter {
  /** Words of the title or of the company's name. */
  q?: string;
  pipeline?: string;
  stage?: string;
  owner?: string;
  team?: string;
  tag?: string;
  company?: string;
  /** Expected on or after and on or before; closed deals: closed then. ISO days. */
  from?: string;
  until?: string;
}

/** Conditions of SQL over `d` (deals) and `s` (their stage), with the values they need. */
export function dealConditions(filter: DealFilter): { sql: string; replacements: Record<string, unknown> } {
  const given: [keyof DealFilter, string][] = [
    ['pipeline', 's.pipeline_id = :pipeline'],
    ['stage', 'd.stage_id = :stage'],
    ['owner', 'd.owner_id = :owner'],
    ['team', 'd.owner_id IN (SELECT id FROM users WHERE team = :team)'],
    ['tag', 'd.tags @> ARRAY[:tag]::text[]'],
    ['company', 'd.company_id = :company'],
    ['from', '(d.closed_at >= :from::date OR (d.closed_at IS NULL AND d.expected_close >= :from::date))'],
    [
      'until',
      '(d.closed_at < :until::date + 1 OR (d.closed_at IS NULL AND d.expected_close <= :until::date))',
    ],
  ];
  const used = given.filter(([key]) => filter[key] !== undefined);
  const q = filter.q ?? '';
  const [byTitle, byCompany] = [nameHolds('d', 'd.id', q), nameHolds('c', 'd.company_id', q)];
  const parts = [
    ...used.map(([, sql]) => sql),
    ...(q.trim() ? [`(${byTitle.sql} OR ${byCompany.sql})`] : []),
  ];
  return {
    sql: parts.join(' AND ') || 'true',
    replacements: {
      ...byTitle.replacements,
      ...Object.fromEntries(used.map(([key]) => [key, filter[key]])),
    },
  };
}

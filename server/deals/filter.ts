export interface DealFilter {
  pipeline?: string;
  owner?: string;
  team?: string;
  tag?: string;
  company?: string;
  /** Expected on or after and on or before; closed deals: closed then. ISO days. */
  from?: string;
  until?: string;
}

/** Conditions of SQL over `d` (deals), `s` (their stage) and `u` (their owner), with the values they need. */
export function dealConditions(filter: DealFilter): { sql: string; replacements: Record<string, unknown> } {
  const given: [keyof DealFilter, string][] = [
    ['pipeline', 's.pipeline_id = :pipeline'],
    ['owner', 'd.owner_id = :owner'],
    ['team', 'u.team = :team'],
    ['tag', 'd.tags @> ARRAY[:tag]::text[]'],
    ['company', 'd.company_id = :company'],
    ['from', 'coalesce(d.closed_at::date, d.expected_close) >= :from::date'],
    ['until', 'coalesce(d.closed_at::date, d.expected_close) <= :until::date'],
  ];
  const used = given.filter(([key]) => filter[key] !== undefined);
  return {
    sql: used.map(([, sql]) => sql).join(' AND ') || 'true',
    replacements: Object.fromEntries(used.map(([key]) => [key, filter[key]])),
  };
}

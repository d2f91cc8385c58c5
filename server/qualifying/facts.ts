import { COMPANY_PARTS, PERSON_PARTS } from '@emporikon/core/qualifying/completeness';
import { TOUCH_KINDS, TOUCHES, type WarmthRules } from '@emporikon/core/qualifying/warmth';

const points = (parts: readonly { field: string; points: number }[], field: string): number =>
  parts.find((part) => part.field === field)?.points ?? 0;
const when = (condition: string, worth: number): string => `CASE WHEN ${condition} THEN ${worth} ELSE 0 END`;

/** Completeness of person and company in SQL, as `leadCompleteness` of the core has it. Constants are numbers of ours. */
const PERSON = [
  when("p.full_name ~ '\\S\\s+\\S'", points(PERSON_PARTS, 'fullName')),
  when(
    "EXISTS (SELECT 1 FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email')",
    points(PERSON_PARTS, 'email'),
  ),
  when(
    "EXISTS (SELECT 1 FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'phone')",
    points(PERSON_PARTS, 'phone'),
  ),
  when('p.company_id IS NOT NULL', points(PERSON_PARTS, 'companyName')),
  when("coalesce(p.job_title, '') <> ''", points(PERSON_PARTS, 'jobTitle')),
  when("coalesce(p.time_zone, '') <> ''", points(PERSON_PARTS, 'timeZone')),
  when("coalesce(p.address, '') <> ''", points(PERSON_PARTS, 'address')),
].join(' + ');
const COMPANY = (
  [
    ['name', 'name'],
    ['domain', 'domain'],
    ['industry', 'industry'],
    ['address', 'address'],
    ['country', 'country'],
    ['phone', 'phone'],
    ['legal_name', 'legalName'],
    ['time_zone', 'timeZone'],
  ] as const
)
  .map(([column, field]) => when(`coalesce(c.${column}, '') <> ''`, points(COMPANY_PARTS, field)))
  .concat(when('c.employees IS NOT NULL', points(COMPANY_PARTS, 'employees')))
  .concat(when('cardinality(c.technologies) > 0', points(COMPANY_PARTS, 'technologies')))
  .join(' + ');

/** Words by which an ask is one for a quote, in the languages the reader reads asks in. */
export const QUOTE_WORDS =
  'quot|offer|price|pricing|angebot|preis|devis|prix|offert|prijs|presupuesto|precio|orçament|preço|preventiv|prezz|tilbud|pris';

/**
 * What somebody did, from the ledger and from signals: `(kind, at, words)` of the person `person` until `until`, both
 * SQL expressions.
 */
export const touchesSql = (person: string, until: string): string => `
  SELECT CASE e.kind WHEN 'meeting' THEN 'met' WHEN 'visit' THEN 'met' WHEN 'call' THEN 'called'
              WHEN 'mail' THEN CASE WHEN e.thread IS NOT NULL AND EXISTS (
                SELECT 1 FROM ledger_entries o WHERE o.thread = e.thread AND o.side = 'ours' AND o.at < e.at) THEN 'replied' ELSE 'wrote' END END AS kind,
         e.at, e.headline AS words
    FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id
   WHERE k.person_id = ${person} AND e.at <= ${until}
     AND ((e.kind IN ('meeting', 'visit') AND coalesce(e.outcome, 'spoke') = 'spoke') OR (e.kind = 'mail' AND e.side = 'theirs') OR (e.kind = 'call' AND coalesce(e.outcome, 'spoke') = 'spoke' AND e.headline NOT ILIKE 'missed%'))
  UNION ALL
  SELECT 'filled in a form', e.at, e.headline
    FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id JOIN captures f ON f.id = e.capture_id AND f.kind = 'form'
   WHERE k.person_id = ${person} AND e.at <= ${until}
  UNION ALL
  SELECT 'asked for a quote', e.at, e.headline
    FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id
   WHERE k.person_id = ${person} AND e.at <= ${until} AND e.side = 'theirs' AND e.reading #>> '{said,asks}' ~* '${QUOTE_WORDS}'
  UNION ALL
  SELECT g.kind, g.at, g.words FROM signals g WHERE g.person_id = ${person} AND g.at <= ${until}`;

const kindPoints = (rules: WarmthRules): string =>
  `CASE t.kind ${TOUCH_KINDS.map((kind) => `WHEN '${kind}' THEN ${Number(rules.points[kind] ?? TOUCHES[kind].points)}`).join(' ')} ELSE 0 END`;

/** How many minor units make one of a sum's currency (ISO 4217), for sums that are compared as whole amounts. */
const MINOR_UNITS = `CASE WHEN i.value->>'currency' IN ('BIF','CLP','DJF','GNF','ISK','JPY','KMF','KRW','PYG','RWF','UGX','VND','VUV','XAF','XOF','XPF') THEN 1
  WHEN i.value->>'currency' IN ('BHD','IQD','JOD','KWD','LYD','OMR','TND') THEN 1000 ELSE 100 END`;

/**
 * One row a lead with all it is judged by. `subjects` gives `(id, as_of)`: the lead, and the time as of which it is
 * judged, so that a closed one can be seen as it was then.
 */
export const factsSql = (subjects: string, rules: WarmthRules): string => `
  SELECT l.id, l.person_id, l.status, s.as_of, l.source, l.created_at,
         p.job_title, p.standing, p.tags, p.time_zone, c.industry, c.employees, c.country, c.technologies,
         wish.quantity, wish.amount,
         round((${PERSON}) * 0.6 + CASE WHEN c.id IS NULL THEN 0 ELSE (${COMPANY}) * 0.4 END)::int AS completeness,
         extract(epoch FROM s.as_of - l.created_at)::float8 / 86400 AS days_open,
         (SELECT count(*) FROM lead_answers a WHERE a.lead_id = l.id AND a.answer <> '' AND a.answered_at <= s.as_of)::float8
           / greatest(1, (SELECT count(*) FROM questions q WHERE q.active)) AS answered,
         answer.hours AS response_hours,
         warm.points * CASE WHEN mailed.at <= s.as_of - interval '30 days' AND warm.youngest <= s.as_of - interval '30 days' THEN 0.5 ELSE 1 END AS warmth_points,
         mailed.at AS last_mailed
    FROM (${subjects}) s (id, as_of)
    JOIN leads l ON l.id = s.id
    JOIN people p ON p.id = l.person_id
    LEFT JOIN companies c ON c.id = coalesce(l.company_id, p.company_id)
    LEFT JOIN LATERAL (
      SELECT max((i.value->>'count')::numeric) FILTER (WHERE i.kind = 'quantity') AS quantity,
             max((i.value->>'minor')::numeric / ${MINOR_UNITS}) FILTER (WHERE i.kind = 'money') AS amount
        FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id JOIN intents i ON i.capture_id = e.capture_id
       WHERE k.lead_id = l.id AND e.at <= s.as_of AND i.fate = 'proposed') wish ON true
    LEFT JOIN LATERAL (
      SELECT coalesce(sum(${kindPoints(rules)} * power(2, -extract(epoch FROM s.as_of - t.at)::float8 / 86400 / ${Number(rules.halfLifeDays)})), 0) AS points,
             max(t.at) AS youngest
        FROM (${touchesSql('l.person_id', 's.as_of')}) t) warm ON true
    LEFT JOIN LATERAL (
      SELECT max(e.at) AS at FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id
       WHERE k.person_id = l.person_id AND e.kind = 'mail' AND e.side = 'ours' AND e.at <= s.as_of) mailed ON true
    LEFT JOIN LATERAL (
      SELECT extract(epoch FROM min(o.at) - f.at)::float8 / 3600 AS hours
        FROM (SELECT min(e.at) AS at FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id
               WHERE k.lead_id = l.id AND e.side = 'theirs') f
        JOIN ledger_links k ON k.person_id = l.person_id JOIN ledger_entries o ON o.id = k.entry_id AND o.side = 'ours' AND o.at > f.at AND o.at <= s.as_of
       WHERE o.kind IN ('mail', 'call', 'meeting') GROUP BY f.at) answer ON true`;

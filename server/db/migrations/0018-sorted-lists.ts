/** Lists are read in the order of a column by an index that ends in the id, whatever their length. */
export const name = '0018-sorted-lists';

export const up = `
CREATE INDEX people_job_title ON people (job_title, id);
CREATE INDEX people_standing ON people (standing, id);
CREATE INDEX companies_industry ON companies (industry, id);
CREATE INDEX companies_country ON companies (country, id);
CREATE INDEX companies_employees ON companies (employees, id);
CREATE INDEX leads_title ON leads (title, id);
CREATE INDEX deals_title ON deals (stage_id, title, id);
CREATE INDEX deals_amount ON deals (stage_id, amount_minor, id);
CREATE INDEX deals_close ON deals (stage_id, expected_close, id);
CREATE INDEX lead_scores_fit ON lead_scores (fit, lead_id);
CREATE INDEX lead_scores_warmth ON lead_scores (warmth, lead_id);
`;

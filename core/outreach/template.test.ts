import { registryWith } from '../query/registry/index';
import { mergeFieldsOf, mergeName, mergeText } from './mergeFields';
import { checkTemplate, fillTemplate, gapsIn, TemplateTrouble } from './template';

const fields = mergeFieldsOf(
  registryWith({ fields: { person: [{ key: 'custom.bikes', label: 'Bikes', type: 'number' }] } }),
);
const ana = { person: { first_name: 'Ana', job_title: 'Buyer', bikes: '3' }, company: null };
const fill = (source: string, data: Parameters<typeof fillTemplate>[1] = ana) =>
  fillTemplate(source, data, fields, 'text');

it('names every field of people, companies, leads, deals, projects and cases once', () => {
  const paths = fields.map(({ path }) => path);
  expect(new Set(paths).size).toBe(paths.length);
  for (const path of [
    'person.first_name',
    'person.bikes',
    'company.name',
    'lead.title',
    'deal.value',
    'project.due',
    'case.title',
    'me.name',
  ])
    expect(paths).toContain(path);
});

it('fills in what is known, and falls back where a fallback is given', () => {
  expect(fill('Dear {{ person.first_name }}, of {{ company.name | default: "your company" }}')).toEqual({
    text: 'Dear Ana, of your company',
    missing: [],
  });
});

it('leaves a gap where something is missing, and says what', () => {
  expect(fill('Dear {{ person.last_name }}, {{person.last_name}}')).toEqual({
    text: 'Dear {{ person.last_name }}, {{ person.last_name }}',
    missing: ['Last name'],
  });
  expect(gapsIn('Dear {{ person.last_name }}, {{person.last_name}}', fields)).toEqual(['Last name']);
});

it('takes an empty field for nothing in a condition, and a branch not taken misses nothing', () => {
  const source =
    '{% if person.job_title %}As {{ person.job_title }}{% endif %}{% if company.name %} at {{ company.name }}{% else %}.{% endif %}';
  expect(fill(source)).toEqual({ text: 'As Buyer.', missing: [] });
  expect(fill('{% unless person.birthday %}none{% endunless %}').text).toBe('none');
  expect(fill('{% if person.first_name == "Ana" %}yes{% endif %}').text).toBe('yes');
});

it('escapes what is filled in, and reads no value as a template again', () => {
  const data = { person: { first_name: '<b onclick=x>{{ person.job_title }}', job_title: '{% raw %}' } };
  const { text } = fillTemplate(
    '<p>{{ person.first_name }} {{ person.job_title }}</p>',
    data,
    fields,
    'html',
  );
  expect(text).toBe('<p>&lt;b onclick=x&gt;{ { person.job_title }} { % raw %}</p>');
  expect(gapsIn(text, fields)).toEqual([]);
  expect(fill('{{ person.first_name }}', { person: { first_name: 'Ana\r\nBcc: x@y.example' } }).text).toBe(
    'Ana Bcc: x@y.example',
  );
});

it.each([
  ['{% include "/etc/passwd" %}', '“{% include %}” cannot be used in a letter.'],
  ['{% render "x" %}', '“{% render %}” cannot be used in a letter.'],
  ['{% assign a = 1 %}', '“{% assign %}” cannot be used in a letter.'],
  ['{% for i in (1..100000000) %}x{% endfor %}', '“{% for %}” cannot be used in a letter.'],
  ['{{ person.first_name | inspect }}', '“| inspect” cannot be used in a letter.'],
  ['{% if person.first_name %}never closed', '“{% if %}” has no “{% endif %}”.'],
  ['{{ person.constructor }}', 'There is no field “person.constructor”.'],
  ['{{ person.shoe_size }}', 'There is no field “person.shoe_size”.'],
  ['{{ secret }}', 'There is no field “secret”.'],
])('says what is wrong with %s', (source, words) => {
  expect(checkTemplate(source, fields)).toContain(words);
});

it('reaches nothing but the fields', () => {
  for (const path of ['constructor', '__proto__', 'toString', 'valueOf', 'values', 'kind'])
    expect(fill(`{{ person.${path} }}`).text).toBe(`{{ person.${path} }}`);
  expect(checkTemplate('{{ person.first_name.length }}', fields)).toEqual([
    'There is no field “person.first_name.length”.',
  ]);
});

it('does not fill in for ever', () => {
  expect(() => fill(`${'{% if true %}'.repeat(20_000)}x${'{% endif %}'.repeat(20_000)}`)).toThrow(
    TemplateTrouble,
  );
  expect(() => fill('x'.repeat(300_000))).toThrow('too long');
  const swollen = `{{ person.first_name ${'| replace: "a", "aaaaaaaaaa"'.repeat(12)} }}`;
  expect(() => fill(swollen, { person: { first_name: 'a'.repeat(100) } })).toThrow(TemplateTrouble);
});

it('writes values as a letter does', () => {
  const british = { locale: 'en-GB', zone: 'Europe/London', currency: 'EUR' };
  const of = (type: 'money' | 'day' | 'yearly' | 'time' | 'number', value: string | number): string =>
    mergeText(value, { key: 'x', label: 'X', type }, british);
  expect([
    of('money', 1_234_500),
    of('day', '2026-12-04'),
    of('yearly', '1980-05-17'),
    of('yearly', '--05-17'),
    of('time', '2026-12-04T09:30:00Z'),
    of('number', 12_000),
  ]).toEqual(['€12,345.00', '4 December 2026', '17 May', '17 May', '4 December 2026 at 09:30', '12,000']);
  expect(mergeText(['a', 'b'], { key: 'tags', label: 'Tags', type: 'several' }, british)).toBe('a, b');
  expect(mergeName({ key: 'wonDealsMinor', label: 'Won deals, value' })).toBe('won_deals_value');
});

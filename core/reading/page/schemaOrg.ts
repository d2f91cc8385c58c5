import { isProfileUrl } from '../links';
import { tidy } from '../../people/text';
import type { Said } from '../types';
import type { Fact, Subject } from './facts';
import type { Described } from './microdata';
import type { Sourced } from './outline';

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };
type Node = { [key: string]: Json };

const MOST_NODES = 3000;
const DEEPEST = 40;
const PERSON = /^(?:Person|Patient|Physician)$/;
const COMPANY =
  /^(?:Organization|Corporation|LocalBusiness|NGO|Bakery|Store|Restaurant|FoodEstablishment|CafeOrCoffeeShop|Florist|GovernmentOrganization|EducationalOrganization|[A-Z]\w*(?:Business|Store|Service|Organization|Company|Shop))$/;

/** Properties that name who made or judged a page, and not whom it is about. */
const MADE_BY = new Set(
  'author editor creator contributor reviewedBy review reviews comment publisher translator accountablePerson copyrightHolder funder sponsor provider sourceOrganization mentions performer'.split(
    ' ',
  ),
);

/** Properties by which an organization names its people. */
const STAFF = ['founder', 'founders', 'employee', 'employees', 'member', 'members'];

const isNode = (value: Json | undefined): value is Node =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const listOf = (value: Json | undefined): Json[] =>
  value === undefined || value === null ? [] : Array.isArray(value) ? value : [value];
const bareType = (type: Json): string => String(type).replace(/^.*[/#:]/, '');
const typesOf = (node: Node): string[] => listOf(node['@type']).map(bareType);

/** A text of a property: itself, or the name of the thing it points to. */
function textOf(value: Json | undefined): string {
  const [first] = listOf(value);
  if (typeof first === 'string' || typeof first === 'number') return tidy(String(first));
  if (isNode(first)) return textOf(first.name ?? first['@value'] ?? first.legalName);
  return '';
}
const textsOf = (value: Json | undefined): string[] => listOf(value).map(textOf).filter(Boolean);

function addressOf(value: Json | undefined): string {
  const [first] = listOf(value);
  if (typeof first === 'string') return tidy(first);
  if (!isNode(first)) return '';
  const town = [textOf(first.postalCode), textOf(first.addressLocality)].filter(Boolean).join(' ');
  return [textOf(first.streetAddress), town, textOf(first.addressRegion), textOf(first.addressCountry)]
    .filter(Boolean)
    .join(', ');
}

const phoneType = (contact: string): Fact['type'] =>
  /mobile|cell/i.test(contact) ? 'mobile' : /fax/i.test(contact) ? 'fax' : undefined;

/** The graph of one document: every node, with `@id` references followed. */
class Graph {
  readonly nodes: Node[] = [];
  private readonly byId = new Map<string, Node>();
  private readonly firms = new Map<Node, Node>();
  /** People who made the page or something on it, and the identifiers of such. */
  private readonly makers = new Set<Json>();

  /** @param isMaker whether it stands below a property that names who made the page */
  add(value: Json, depth = 0, isMaker = false): void {
    if (depth > DEEPEST || this.nodes.length > MOST_NODES) return;
    if (Array.isArray(value)) for (const one of value) this.add(one, depth + 1, isMaker);
    else if (isNode(value)) {
      this.nodes.push(value);
      const id = value['@id'];
      if (isMaker) this.makers.add(typeof id === 'string' ? id : value);
      if (typeof id === 'string' && Object.keys(value).length > 1) this.byId.set(id, value);
      if (typesOf(value).some((type) => COMPANY.test(type)))
        for (const name of STAFF)
          for (const one of listOf(value[name]).filter(isNode)) this.firms.set(one, value);
      for (const [name, one] of Object.entries(value)) this.add(one, depth + 1, isMaker || MADE_BY.has(name));
    }
  }

  /** Whether a person or firm is named only as who made the page or something on it. */
  isMaker(node: Node): boolean {
    return this.makers.has(node) || (node['@id'] !== undefined && this.makers.has(node['@id']));
  }

  /** The firm that names somebody as its founder, employee or member. */
  firmOf(person: Node): Node | null {
    for (const [one, firm] of this.firms)
      if (one === person || (person['@id'] !== undefined && one['@id'] === person['@id'])) return firm;
    return null;
  }

  follow(value: Json | undefined): Node | null {
    const [first] = listOf(value);
    if (typeof first === 'string') return this.byId.get(first) ?? null;
    if (!isNode(first)) return null;
    const id = first['@id'];
    return (typeof id === 'string' && Object.keys(first).length === 1 && this.byId.get(id)) || first;
  }
}

const fact = (field: Fact['field'], value: string, type?: Fact['type']): Fact[] =>
  value ? [{ field, value, origin: 'schema.org data', ...(type ? { type } : {}) }] : [];

function contactFacts(node: Node): Fact[] {
  const points = listOf(node.contactPoint).filter(isNode);
  return [
    ...textsOf(node.email).flatMap((text) => fact('email', text.replace(/^mailto:/i, ''))),
    ...textsOf(node.telephone).flatMap((text) => fact('phone', text.replace(/^tel:/i, ''))),
    ...textsOf(node.faxNumber).flatMap((text) => fact('phone', text, 'fax')),
    ...points.flatMap((point) => [
      ...fact('email', textOf(point.email).replace(/^mailto:/i, '')),
      ...fact('phone', textOf(point.telephone).replace(/^tel:/i, ''), phoneType(textOf(point.contactType))),
    ]),
  ];
}

/** Of several posts the one that has not ended, and of those the one that began last. */
function currentOf(value: Json | undefined): Json | undefined {
  const posts = listOf(value).filter(isNode);
  const open = posts.filter((post) => !textOf(post.endDate));
  if (!open.length || posts.length < 2) return value;
  return open.reduce((last, one) => (textOf(one.startDate) > textOf(last.startDate) ? one : last));
}

function personFacts(node: Node, graph: Graph): Fact[] {
  const named = textOf(node.name);
  const given = textOf(node.givenName);
  const family = textOf(node.familyName);
  const firm =
    graph.follow(currentOf(node.worksFor)) ??
    graph.follow(node.affiliation) ??
    graph.follow(node.memberOf) ??
    graph.firmOf(node);
  const role = firm && typesOf(firm).some((type) => /Role$/.test(type)) ? firm : null;
  const employer = role ? graph.follow(role.worksFor ?? role.memberOf ?? role.affiliation) : firm;
  const occupation = graph.follow(node.hasOccupation);
  return [
    ...fact('fullName', named || `${given} ${family}`.trim()),
    ...fact('jobTitle', textOf(node.jobTitle) || textOf(role?.roleName) || textOf(occupation ?? undefined)),
    ...fact('companyName', employer ? textOf(employer.name ?? employer.legalName) : textOf(node.worksFor)),
    ...contactFacts(node),
    ...listOf(node.workLocation)
      .filter(isNode)
      .flatMap((one) => fact('address', addressOf(one.address))),
    ...fact('address', addressOf(node.address)),
    ...fact('birthday', textOf(node.birthDate)),
    ...(employer ? fact('url', textOf(employer.url)) : []),
    ...textsOf(node.sameAs).flatMap((text) => fact(isProfileUrl(text) ? 'profile' : 'url', text)),
    ...(textOf(node.url) ? fact(isProfileUrl(textOf(node.url)) ? 'profile' : 'url', textOf(node.url)) : []),
  ];
}

const companyFacts = (node: Node): Fact[] => [
  ...fact('companyName', textOf(node.name) || textOf(node.legalName)),
  ...contactFacts(node),
  ...fact('address', addressOf(node.address)),
  ...fact('url', textOf(node.url)),
];

export interface SchemaData {
  people: Subject[];
  companies: Subject[];
  conversation: Said[];
  /** Whether the document says of itself that it is a profile, or a list. */
  says: 'profile' | 'list' | null;
}

/**
 * What the JSON-LD and the microdata of a page say in the words of schema.org: Person, Organization, worksFor, sameAs, Message.
 * @param isSubject whether the page is headed by a name, so that even who wrote it is whom it is about
 */
export function readSchemaOrg(
  data: readonly Sourced[],
  described: readonly Described[] = [],
  isSubject: (name: string) => boolean = () => false,
): SchemaData {
  const result: SchemaData = { people: [], companies: [], conversation: [], says: null };
  const graph = new Graph();
  for (const { text } of data) {
    try {
      graph.add(JSON.parse(text.replace(/^\s*<!\[CDATA\[|\]\]>\s*$/g, '')) as Json);
    } catch {
      // What is not JSON says nothing; the page has other voices.
    }
  }
  for (const thing of described) graph.add(thing);
  const seen = new Set<Node>();
  const add = (node: Node, first = false): void => {
    if (seen.has(node)) return;
    seen.add(node);
    const types = typesOf(node);
    const subject = (kind: Subject['kind'], facts: Fact[], into: Subject[]): void => {
      if (facts.some((fact) => fact.field === 'fullName' || fact.field === 'companyName'))
        into[first ? 'unshift' : 'push']({
          kind,
          facts,
          url: textOf(node.url) || textOf(node['@id']) || null,
        });
    };
    if (types.some((type) => PERSON.test(type))) {
      if (!first && graph.isMaker(node) && !isSubject(textOf(node.name))) return;
      subject('person', personFacts(node, graph), result.people);
    } else if (types.some((type) => COMPANY.test(type)))
      subject('company', companyFacts(node), result.companies);
    else if (types.some((type) => /^(?:Email)?Message$/.test(type) || type === 'Comment'))
      result.conversation.push({
        id: textOf(node['@id']) || textOf(node.identifier) || null,
        from: textOf(node.sender ?? node.author),
        at: textOf(node.dateSent ?? node.datePublished ?? node.dateCreated) || null,
        text: textOf(node.text ?? node.articleBody),
      });
  };
  for (const node of graph.nodes) {
    const types = typesOf(node);
    if (types.includes('ProfilePage')) result.says = 'profile';
    if (types.some((type) => /^(?:ItemList|SearchResultsPage|CollectionPage)$/.test(type)))
      result.says ??= 'list';
    const main = graph.follow(node.mainEntity);
    if (main) add(main, true);
  }
  for (const node of graph.nodes) add(node);
  return result;
}

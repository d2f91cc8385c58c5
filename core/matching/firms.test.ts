import { firmBookOf } from '../../bench/crowd/firmBook';
import { compareCompanyFacts, type CompanyFacts } from './firms';
import { findCompanies } from './lookAlikes';
import { scalesOf, toProbability } from './verdict';

const company = (name: string, over: Partial<CompanyFacts> = {}): CompanyFacts => ({
  name,
  domain: null,
  ...over,
});
const domain = 'alder.example';
const [HERE, THERE] = ['+442079460100', '+442079460199'];
/** How likely two are one, in a book of a thousand. */
const likely = (a: CompanyFacts, b: CompanyFacts): number =>
  toProbability(
    scalesOf({ records: 1000 }).prior + compareCompanyFacts(a, b).reduce((sum, one) => sum + one.bits, 0),
  );

describe('two records of one company', () => {
  // Common practice: names as registers, letterheads, signatures and lists of one firm have them.
  it.each<[string, CompanyFacts, CompanyFacts]>([
    ['a legal form of Germany', company('Alder Maschinenbau'), company('ALDER MASCHINENBAU GMBH & CO. KG')],
    ['of Poland', company('Alder Piekarnia Sp. z o.o.'), company('Alder Piekarnia')],
    ['of Czechia', company('Alder Pekárna s.r.o.'), company('Alder Pekarna')],
    ['of Hungary', company('Alder Nyomda Kft.'), company('Alder Nyomda')],
    ['of Brazil', company('Alder Padaria Ltda.'), company('Alder Padaria')],
    ['of Romania', company('Alder Transport S.R.L.'), company('Alder Transport')],
    ['of Bulgaria', company('Алдер Транспорт ЕООД'), company('Алдер Транспорт')],
    ['of Russia, before the name', company('ООО Алдер Транспорт'), company('Алдер Транспорт')],
    ['of Greece', company('Άλντερ Φαρμακείο ΕΠΕ'), company('Άλντερ Φαρμακείο')],
    ['of Japan', company('株式会社アルダー'), company('アルダー')],
    ['of Korea', company('(주)알더'), company('알더')],
    ['of Turkey', company('Alder Tekstil Ltd. Şti.'), company('Alder Tekstil')],
    ['of India', company('Alder Textiles Pvt. Ltd.'), company('Alder Textiles')],
    ['of Mexico', company('Alder Transportes S.A. de C.V.'), company('Alder Transportes')],
    ['of Sweden', company('Alder Bygg AB'), company('Alder Bygg')],
    ['in another script', company('Алдер Транспорт ООД'), company('Alder Transport OOD')],
    ['translated', company('Alder Bäckerei', { domain }), company('Alder Bakery', { domain })],
    ['shortened', company('Alder Consulting', { phone: HERE }), company('Alder Cons.', { phone: HERE })],
    ['a brand', company('Alder', { domain }), company('Alder Versicherungen AG', { domain })],
    [
      'initials',
      company('Northern Cargo Bikes Ltd', { domain: 'ncb.example' }),
      company('NCB', { domain: 'ncb.example' }),
    ],
    ['words in another order', company('Bakery Alder & Birch'), company('Birch & Alder Bakery')],
    ['a slip', company('Greenbasket Foods', { phone: HERE }), company('Greenbaskett Foods', { phone: HERE })],
  ])('are told by %s', (_, a, b) => {
    expect(likely(a, b)).toBeGreaterThan(0.6);
    expect(likely(b, a)).toBeCloseTo(likely(a, b), 10);
  });
});

describe('two companies', () => {
  it.each<[string, CompanyFacts, CompanyFacts]>([
    ['a branch', company('Alder Bakery', { phone: HERE }), company('Alder Bakery Porto', { phone: THERE })],
    [
      'a branch on the same site',
      company('Alder Bakery', { domain }),
      company('Alder Bakery Porto', { domain }),
    ],
    [
      'sisters of two trades',
      company('Alder Bakery GmbH', { domain }),
      company('Alder Logistik GmbH', { domain }),
    ],
    ['sisters in two countries', company('Alder Transport GmbH'), company('Alder Transport Kft.')],
    ['others of the same trade', company('Alder Bakery'), company('Birch Bakery')],
    [
      'one building',
      company('Alder Bakery', { address: '1 Mill Lane' }),
      company('Birch Press', { address: '1 Mill Lane' }),
    ],
    ['names of nothing but a legal form', company('株式会社'), company('有限公司')],
    ['names of nothing but marks', company('!!!'), company('???')],
    ['initials of another', company('NCB'), company('Northern Cargo Bikes Ltd')],
  ])('stay apart: %s', (_, a, b) => {
    expect(likely(a, b)).toBeLessThan(0.5);
    expect(likely(b, a)).toBeCloseTo(likely(a, b), 10);
  });
});

it('finds the doubles of a labelled book without labels, F1 at least 0.95', () => {
  const { firms, which } = firmBookOf(1500, 3, 'test');
  const pairsOf = (rows: readonly number[]): string[] =>
    rows.flatMap((a, at) => rows.slice(at + 1).map((b) => `${Math.min(a, b)} ${Math.max(a, b)}`));
  const byFirm = new Map<number, number[]>();
  which.forEach((one, row) => byFirm.set(one, [...(byFirm.get(one) ?? []), row]));
  const truth = new Set([...byFirm.values()].flatMap(pairsOf));
  const found = findCompanies(firms, new Set()).flatMap((group) => pairsOf(group.rows));
  const right = found.filter((pair) => truth.has(pair)).length;
  const [precision, recall] = [right / found.length, right / truth.size];
  expect((2 * precision * recall) / (precision + recall)).toBeGreaterThan(0.95);
});

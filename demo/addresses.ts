export const COUNTRIES = ['GB', 'IE', 'PT', 'NL', 'SE', 'DE', 'US'] as const;
type Country = (typeof COUNTRIES)[number];

/** Towns of theirs, and how an address there is written; the streets are made up. */
const ADDRESSES: Readonly<
  Record<Country, readonly [towns: readonly string[], write: (number: number, town: string) => string]>
> = {
  GB: [
    ['Leeds', 'Bristol', 'Norwich', 'Glasgow', 'Cardiff', 'Hull'],
    (n, town) => `${n} Millrace Lane, ${town}`,
  ],
  IE: [['Dublin', 'Cork', 'Galway', 'Limerick'], (n, town) => `${n} Forge Quay, ${town}`],
  PT: [['Lisboa', 'Porto', 'Braga', 'Coimbra', 'Faro'], (n, town) => `Rua do Moinho Velho ${n}, ${town}`],
  NL: [['Utrecht', 'Rotterdam', 'Den Haag', 'Groningen'], (n, town) => `Molenpad ${n}, ${town}`],
  SE: [['Malmö', 'Göteborg', 'Stockholm', 'Uppsala'], (n, town) => `Kvarngatan ${n}, ${town}`],
  DE: [['Hamburg', 'Köln', 'München', 'Leipzig', 'Bremen'], (n, town) => `Mühlengasse ${n}, ${town}`],
  US: [['Portland, OR', 'Minneapolis, MN', 'Denver, CO'], (n, town) => `${n} Millrace Street, ${town}`],
};

/** An address in a country, another for each number. */
export function addressIn(country: Country, at: number): string {
  const [towns, write] = ADDRESSES[country];
  return write(3 + ((at * 7) % 60), towns[at % towns.length] ?? '');
}

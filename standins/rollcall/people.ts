export type Voice = 'json' | 'card' | 'graph' | 'both' | 'quarrel';

export interface Member {
  slug: string;
  name: string;
  title: string;
  company: string;
  town: string;
  /** In which vocabulary their page speaks. */
  voice: Voice;
  email?: string;
  phone?: string;
  site?: string;
  about: string;
}

/** Made-up professionals; numbers from the ranges kept for fiction. */
export const MEMBERS: readonly Member[] = [
  {
    slug: 'odile-marchetti',
    name: 'Odile Marchetti',
    title: 'Responsable achats',
    company: 'Boulangeries Lisière',
    town: 'Lyon',
    voice: 'json',
    email: 'odile.marchetti@lisiere.example',
    phone: '+33 6 39 98 12 40',
    site: 'https://lisiere.example',
    about: 'Buys flour, ovens and everything on wheels for eleven bakeries.',
  },
  {
    slug: 'henrik-lundqvist-berg',
    name: 'Henrik Lundqvist-Berg',
    title: 'Fleet Manager',
    company: 'Norrhamn Bud AB',
    town: 'Göteborg',
    voice: 'card',
    email: 'henrik@norrhamnbud.example',
    phone: '+46 70 174 06 33',
    about: 'Forty couriers, and no diesel by next winter.',
  },
  {
    slug: 'tamsin-vale',
    name: 'Tamsin Vale',
    title: 'Head of Logistics',
    company: 'Petal & Stem',
    town: 'Bristol',
    voice: 'graph',
    about: 'Flowers before nine, every day.',
  },
  {
    slug: 'joao-pedrosa',
    name: 'João Pedrosa',
    title: 'Sócio-gerente',
    company: 'Mercearia Pedrosa',
    town: 'Porto',
    voice: 'both',
    phone: '+351 910 555 321',
    about: 'Third generation of grocers.',
  },
  {
    slug: 'wiebke-harms',
    name: 'Wiebke Harms',
    title: 'Einkaufsleiterin',
    company: 'Harms Feinkost GmbH',
    town: 'Bremen',
    voice: 'quarrel',
    email: 'wiebke.harms@harms-feinkost.example',
    about: 'Feinkost seit 1931.',
  },
  {
    slug: 'callum-redfern',
    name: 'Callum Redfern',
    title: 'Operations Director',
    company: 'Redfern Catering',
    town: 'Leeds',
    voice: 'json',
    email: 'callum@redferncatering.example',
    phone: '0113 496 0312',
    about: 'Weddings, wakes and works canteens.',
  },
  {
    slug: 'ilse-van-dorp',
    name: 'Ilse van Dorp',
    title: 'Inkoper',
    company: 'Groentehof',
    town: 'Utrecht',
    voice: 'card',
    about: 'Vegetable boxes by bicycle.',
  },
  {
    slug: 'mateo-arribas',
    name: 'Mateo Arribas',
    title: 'Jefe de reparto',
    company: 'Pan de Arribas',
    town: 'Valencia',
    voice: 'graph',
    phone: '+34 600 000 218',
    about: 'Pan caliente a las siete.',
  },
  {
    slug: 'siobhan-lacey',
    name: 'Siobhán Lacey',
    title: 'Facilities Manager',
    company: 'Tolka Borough Council',
    town: 'Dublin',
    voice: 'both',
    email: 'siobhan.lacey@tolka.example',
    about: 'Parks, streets and bins.',
  },
  {
    slug: 'bram-okonkwo',
    name: 'Bram Okonkwo',
    title: 'Founder',
    company: 'Last Furlong Couriers',
    town: 'London',
    voice: 'json',
    email: 'bram@lastfurlong.example',
    phone: '020 7946 0411',
    site: 'https://lastfurlong.example',
    about: 'Parcels over the last mile, by leg power.',
  },
  {
    slug: 'greta-solheim',
    name: 'Greta Solheim',
    title: 'Daglig leder',
    company: 'Solheim Blomster',
    town: 'Bergen',
    voice: 'card',
    email: 'greta@solheimblomster.example',
    about: 'Blomster, og levering samme dag.',
  },
  {
    slug: 'niccolo-ferraris',
    name: 'Niccolò Ferraris',
    title: 'Titolare',
    company: 'Officina Ferraris',
    town: 'Torino',
    voice: 'quarrel',
    phone: '+39 011 555 0198',
    about: 'Ripara, costruisce, consegna.',
  },
];

export interface Said {
  id: string;
  from: string;
  at: string;
  text: string;
}

/** The thread between one member and one of us. */
export const threadWith = (member: Member): Said[] => [
  {
    id: `${member.slug}-1`,
    from: 'Pell Garrick',
    at: '2026-11-16T09:12:00+00:00',
    text: `Hello ${member.name.split(' ')[0] ?? ''}, we saw each other at the fair. Would a long bike be of use for ${member.company}?`,
  },
  {
    id: `${member.slug}-2`,
    from: member.name,
    at: '2026-11-17T08:40:00+00:00',
    text: 'It might. Could you send us a price for four of them, with boxes?',
  },
  {
    id: `${member.slug}-3`,
    from: 'Pell Garrick',
    at: '2026-11-17T14:05:00+00:00',
    text: 'Gladly. I will send it by Friday.',
  },
];

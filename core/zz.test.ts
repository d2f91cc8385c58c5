import { readNote } from './reading/call/read';
const L = `rita from brightwater laundry 07700 900555 wants 4 trolleys
paul hennessy quayside joinery quote for 2 vans
spoke jenny marlow tamar foods she wants prices
called back mike at denholm bros no answer
ring aisha khan re service plan 020 7946 0555
new lead tom brennan brennan plumbing 3 bikes 9k budget
margit from kilmore dairy says invoice wrong
bill (wexford haulage) needs quote asap
sue@hartleybakes.example sue hartley hartley bakes 2 trailers
met dev patel patel & sons friday 3pm demo
graham owner of the corner deli wants a test ride
had a call from lynn at st marys school business manager wants 6
ursula graf café graf zürich 3 velos
marc dupont boulangerie dupont rappeler jeudi
lucas martins padaria flor 2 bicicletas sexta
jan pieters bakkerij pieters wil offerte
ola hansen hansens blomster 5 sykler
Spoke with Ngozi at the Hub; she'll ask her boss Emeka Obi (CFO).
Rang TechNova, got through to Li Wei, IT lead, 30 seats
Lead: Fatima Zahra El Idrissi / Atlas Imports / +212 5 22 99 00 11
Dmitri (surname unreadable) of Polar Freight
Ms Abernathy-Cole, Headteacher, Fernhill Primary. 2 cargo trikes. Governors meet 8 Dec.
Jean-Luc de la Tour (Tour & Fils SARL) 06 99 00 12 34
O'Malley's Bar - Cormac O'Malley - 01632 960123
per Sandra: call Ravi Menon, Menon Textiles, 0121 496 0777
Xiomara Quispe | Andes Coffee | jefa de logística | 12 bicis
cc'd Bartholomew Finch of Finch Legal
The mayor's office (contact: Ilse Brandt) 3 bikes
Rep from Nordfjord Fisk, Håkon, wants 7
Zoë Achterberg, inkoop, Gemeente Zuidhaven, 15 fietsen, vóór 1 mei
caller wouldn't give name. Company: Delta Marine
Uwe K. (Kessler Bau) ruft Do. nochmal an
Frau Öztürk, Öztürk Feinkost, 2 Anhänger à 1.200 €
Wg. Angebot: Hr. Lehmann (Fa. Lehmann & Sohn) bittet um Rückruf, Tel. 030 23125 088
Mme Chabert (DAF, Groupe Chabert) : 10 vélos, 35 k€ HT, décision fin janvier
Sig. Moretti - Pasticceria Moretti - Milano - 3 cargo bike
Sr. Joaquim da Silva Prates, Talho Prates, 910 000 123
D. Carmen Ruiz, gerente, Frutas Ruiz SL: 4 bicis, 16.000
P. Nowicki, dyrektor, Nowicki Sp. z o.o., 5 rowerów
Hr. Sørensen fra Sørensens VVS, 2 ladcykler, ring mandag`.split('\n');
test('x', () => {
  const out: string[] = [];
  for (const text of L) { const r = readNote(text, { at: '2026-11-24T10:00:00+00:00', zone: 'Europe/London', country: 'GB' });
    out.push(text, '    ' + r.claims.map((c) => `${c.field}=${c.normalized ?? c.value} ${c.confidence.toFixed(2)}`).join(' | '), '    ' + r.intents.filter((i) => ['date', 'money', 'quantity'].includes(i.kind)).map((i) => `${i.kind}=${i.kind === 'date' ? i.value.at.slice(0, 16) : JSON.stringify((i as { value: unknown }).value)} ${i.confidence.toFixed(2)}`).join(' | ')); }
  require('fs').writeFileSync('/tmp/zz.txt', out.join('\n'));
});

import { readNote } from './reading/call/read';
const L = `spoke w/ Maureen O'Dowd (she's the facilities lead @ Brackenridge Housing) 07700 900461, wants a call Thurs am re 6 trolleys
rang Dr. Anselm Pickering at Wexcombe Surgery — not in, back on the 9th. his secretary Jo took msg
Tues 10:30 meeting w/ Halcyon Print (Bev Marsh + Colin) budget approx 12-14k
it's Kwame Boateng from Sunrise Couriers calling about the invoice
guy called Piet, works at the bakery on Kerkstraat, wants 2 fietsen
Ms R. Okonkwo, head of procurement, Lagoon Catering: 15 units by end of Jan, £9k max
just got off the phone with Hannah Leitch. she runs Leitch & Daughters florists. email hannah@leitchflowers.example
Telefonat mit Hrn. Jürgen Pohl, Einkaufsleiter bei der Stadtwerke Norden GmbH, 0171 39200 12; Angebot über 20 Stk. bis KW 50
Anruf von Frau Dr. Sibylle Krahn (Klinikum Ost), Rückruf erbeten unter 030 23125 44
Habe eben mit der Chefin von Blumen Wagner gesprochen, heißt Petra Wagner, braucht 3 Räder bis Ostern
gesprochen: Mehmet Yildiz, Yildiz Kurierdienst, zwölf Lastenräder, 45 Tsd. Budget
appel de Mme Solange Perrin, responsable achats à la Mairie de Vauclair, rappeler mardi en huit
j'ai eu Thierry au téléphone, de chez Transports Roussel, il lui faut une dizaine de remorques, budget 30 k€
Karim Benali - gérant - Traiteur Benali - 01 99 00 12 34 - veut 4 vélos avant Noël
he hablado con Lucía Peña, encargada de compras de Catering Mirasol, quiere doce bicis, llamarla el martes que viene
Llamó Don Ramiro Sáez (Floristería Sáez) 91 299 00 45, presupuesto 18.000 €
falei com a Dona Graça Moniz, gerente da Padaria Central, quer 5 bicicletas até ao fim do mês
ligou o Tiago da Correios Rápidos, 21 000 12 34, R$ 50 mil
parlato con la sig.ra Ornella Fabbri, responsabile acquisti di Forno Fabbri srl, 6 cargo bike, entro il 15 gennaio
gebeld met Sjoerd van der Meulen van Meulen Logistiek, inkoper, wil offerte voor 10 bakfietsen, max 40k
snakket med Ingrid Solheim, daglig leder i Solheim Blomster, vil ha 3 sykler, ringe neste uke
pratade med Björn Lindqvist på Lindqvists Bageri, 8 lådcyklar, budget 300 tkr
talte med Mette Krogh fra Kroghs Konditori, indkøbschef, 4 ladcykler inden 1. marts
rozmawiałem z Agnieszką Nowak z Piekarni Nowak, potrzebuje 6 rowerów, budżet 60 000 zł
no name given, woman from Tilbury Docks, call back on 01632 960 771 asap
left vm for Stan (Stan Kowalczyk, ops mgr, Peak Parcels)
Priya N. – Marigold Sweets – 07700-900-233 – 3 trikes – wk 49
call with both Anna Reyes and Bob Tully of Castle Foods; Anna decides
Gus Fenwick. Fenwick Ironmongers. Owner. Two trailers. Friday week.
desmond pike pike motors interested in 2 vans worth maybe 30 grand call him tmrw pm
the new buyer at Oakley's is Trish Vance, old one (Ken) left in march
Mr Tanaka at Sakura Foods K.K. +81 3 5550 0123, ten e-bikes
spoke to reception at Meridian Labs, ask for Joel Hart next time
Olga Petrova, CFO, OOO Vostok, 15 seats, USD 12,500, decision by 20/12
number is oh seven seven double oh nine hundred one two three, name Fern Castle
wrong number, turned out to be a garage
Kirsty from Dunmore Council rang, wants 25 bikes not 20, PO number 4471
met Luis at the trade fair in Porto, Luis Carvalho, works for Mercado Azul, luis.carvalho@mercadoazul.example
sam (samantha) birch - birch & co solicitors - 30 licences - renewal 1st March
Visited Glenholm Farm Shop, spoke to Elspeth Rae the owner, she has 3 shops, wants demo next Wednesday at 2pm`.split('\n');
test('x', () => {
  const out: string[] = [];
  for (const text of L) { const r = readNote(text, { at: '2026-11-24T10:00:00+00:00', zone: 'Europe/London', country: 'GB' });
    out.push(text, '    ' + r.claims.map((c) => `${c.field}=${c.normalized ?? c.value} ${c.confidence.toFixed(2)}`).join(' | '), '    ' + r.intents.filter((i) => ['date', 'money', 'quantity'].includes(i.kind)).map((i) => `${i.kind}=${i.kind === 'date' ? i.value.at.slice(0, 16) : JSON.stringify((i as { value: unknown }).value)} ${i.confidence.toFixed(2)}`).join(' | ')); }
  require('fs').writeFileSync('/tmp/zz.txt', out.join('\n'));
});

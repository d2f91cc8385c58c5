import type { DateTime } from 'luxon';
import { officeTime } from './clock';

/** One message of the demo: hours before now, and the message with its Date line left to be filled in. */
interface DemoMail {
  hoursAgo: number;
  message: string;
}

const mail = (hoursAgo: number, from: string, subject: string, body: string, more = ''): DemoMail => ({
  hoursAgo,
  message: `From: ${from}\nTo: Pell Garrick <pell@wharfside.example>\nSubject: ${subject}\n${more}MIME-Version: 1.0\nContent-Type: text/plain; charset=utf-8\n\n${body.trim()}\n`,
});

/** Filed when the demo is loaded: the beginning of a story that the message on top of Arrivals goes on with. */
export const FILED: DemoMail = mail(
  15 * 24,
  'Ines Duarte <ines@padariasol.example>',
  'Delivery bikes for our bakery',
  `
Hello,

we are a bakery in Braga with nine vans. Could you tell us what a long bike carries?

Best wishes,

Ines Duarte
Padaria Sol
M +351 910 555 014
`,
);

/** What waits in Arrivals, oldest first. */
export const WAITING: readonly DemoMail[] = [
  mail(
    46,
    'Gemma Hartley <gemma.hartley@tidewell.example>',
    'Cargo bikes for park keepers',
    `
Good morning,

the council would like three bikes with trailers for its park keepers. Please send us your price list by Friday.
Our budget for this year is £21,000.

Kind regards,

Gemma Hartley
Facilities Manager | Tidewell Borough Council
Tel: 0161 496 0123 | www.tidewell.example
`,
  ),
  mail(
    29,
    '"Kestner, Jörg" <kestner@backhaus-kestner.example>',
    'Anfrage Lastenräder',
    `
Sehr geehrte Damen und Herren,

wir suchen sechs Lastenräder für unsere Filialen. Könnten Sie uns bis Freitag ein Angebot schicken? Wir rechnen mit etwa 30.000 Euro.

Mit freundlichen Grüßen

Jörg Kestner
Einkaufsleiter

Backhaus Kestner GmbH
Mühlenweg 8
10115 Berlin
Tel.: +49 30 23125-0123
Fax: +49 30 23125-0199
Mobil: 0152 28817386
www.backhaus-kestner.example

Sitz der Gesellschaft: Berlin, Amtsgericht Charlottenburg HRB 99999
`,
  ),
  {
    hoursAgo: 26,
    message: `From: Noor el Haddad <noor@dekorenaar.example>
To: Pell Garrick <pell@wharfside.example>
Subject: Vier fietsen
MIME-Version: 1.0
Content-Type: text/html; charset=utf-8

<html><head><style>p { color: #333 }</style></head><body><p>Dag Pell,</p><p>Could you send a quote for <b>four bikes</b>? We can spend about EUR 16.000.</p><p>Groet,</p>
<table><tr><td><b>Noor el Haddad</b></td></tr><tr><td>Inkoper</td></tr><tr><td>Bakkerij De Korenaar B.V.</td></tr><tr><td>Molenweg 3, 3011 AB Rotterdam</td></tr>
<tr><td>T</td><td>010 123 4567</td></tr><tr><td>W</td><td>www.dekorenaar.example</td></tr></table><script>alert(1)</script><img src="https://track.example/open.gif" width="1" height="1"></body></html>
`,
  },
  mail(
    22,
    'Mara Quill <mara@wharfside.example>',
    'Fwd: Bikes for our festival kitchens',
    `
Pell, one for you.

Mara

---------- Forwarded message ---------
From: Carys Penhallow <carys@penhallow.example>
Date: Mon, 23 Nov 2026 at 18:00
Subject: Bikes for our festival kitchens
To: <mara@wharfside.example>

Hello Mara,

we need three bikes for our festival kitchens from May. Can we meet next Tuesday at 10?

Best
Carys Penhallow
Head of Catering, Penhallow Events
07700 900666
`,
  ),
  mail(
    6,
    'A. Nolan <a.nolan@freemail.example>',
    'The hire plan',
    `
Hi Pell,

writing from home: what would the hire plan cost by the month? You can ring me on my mobile 020 910 0123.

Aoife Nolan
Liffey Linen
`,
  ),
  mail(
    4,
    'Tamsin Orchard <tamsin.orchard@freemail.example>',
    'A bike for my flower round',
    `
Hello, I sell flowers at the market and my van is dying. What does a small cargo
bike cost and how long do I wait for one?

Thanks
Tamsin
`,
  ),
  mail(
    2,
    'Ines Duarte <ines@padariasol.example>',
    'Could you send the quote before Thursday?',
    `
Hello Pell,

thank you for the call on Friday. Could you send the quote before Thursday? We would like eight long bikes, two of them with cold boxes, and my brother asks for the payload sheet. We can spend about 40,000 euros.

Best wishes,

Ines Duarte
Buyer
Padaria Sol
Rua do Forno 21, Braga
M +351 910 555 014
`,
  ),
];

/** The raw message as it would have come in before `now`. */
export function rawMail({ hoursAgo, message }: DemoMail, now: DateTime): Buffer {
  const at = officeTime(now.minus({ hours: hoursAgo }));
  return Buffer.from(
    `Date: ${at.toRFC2822() ?? ''}\nMessage-ID: <demo-${hoursAgo}@wharfside.example>\n${message}`.replace(
      /\n/g,
      '\r\n',
    ),
  );
}

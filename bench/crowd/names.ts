/** Names of no one in particular: common given names, and family names put together from parts, thousands of them. */
export const GIVEN: readonly string[] = `
James John Robert Michael William David Richard Joseph Thomas Charles Daniel Matthew Anthony Mark Steven Paul Andrew
Joshua Kenneth Kevin Brian George Timothy Ronald Edward Jason Jeffrey Ryan Jacob Gary Nicholas Eric Jonathan Stephen Larry
Justin Scott Brandon Benjamin Samuel Gregory Alexander Patrick Frank Raymond Jack Dennis Jerry Tyler Aaron Adam Henry
Nathan Douglas Zachary Peter Kyle Noah Ethan Jeremy Walter Christian Keith Roger Terry Austin Sean Gerald Carl Harold
Mary Patricia Jennifer Linda Elizabeth Barbara Susan Jessica Sarah Karen Lisa Nancy Betty Margaret Sandra Ashley Kimberly
Emily Donna Michelle Carol Amanda Dorothy Melissa Deborah Stephanie Rebecca Sharon Laura Cynthia Kathleen Amy Angela
Shirley Anna Brenda Pamela Emma Nicole Helen Samantha Katherine Christine Debra Rachel Carolyn Janet Catherine Maria
Heather Diane Ruth Julie Olivia Joyce Virginia Victoria Kelly Lauren Christina Joan Evelyn Judith Megan Andrea Cheryl
Hannah Jacqueline Martha Gloria Teresa Ann Sara Madison Frances Kathryn Janice Jean Abigail Alice Julia Judy Sophia
Grace Denise Amber Doris Marilyn Danielle Beverly Isabella Theresa Diana Natalie Brittany Charlotte Marie Kayla Alexis
Lena Jonas Lukas Felix Leon Paul Finn Jürgen Günther Björn Søren Lars Ingrid Astrid Sigrid Hanna Katrin Anke Ulrike
João José Inês Tiago Rui Sofia Beatriz Mariana Gonçalo Nuno Carlos Miguel Luís Ana Pedro Joana Catarina Vasco Duarte
François Étienne Chloé Amélie Léa Théo Mathieu Élodie Benoît Camille Lucie Manon Hugo Sébastien Aurélie Céline
Marek Tomasz Agnieszka Katarzyna Piotr Zofia Michał Łukasz Małgorzata Ewa Jakub Magdalena Paweł Wojciech
Giulia Marco Luca Francesca Chiara Matteo Alessandro Federica Davide Elena Niccolò Simone Paola
Anouk Sanne Daan Sem Lotte Bram Femke Joris Maud Wouter Ilse Niels Fleur Ruben Saskia
Priya Amit Rahul Sunita Anjali Vikram Deepak Neha Arjun Kavita Ravi Meera Mohammed Fatima Ahmed Aisha Omar Layla Yusuf
Zainab Hassan Mariam Ali Noor Ibrahim Khadija Bilal Amina Chen Wei Li Ming Yuki Hiroshi Kenji Sakura Haruto`
  .trim()
  .split(/\s+/);

const STEMS =
  `Ash Black Brad Brent Brook Car Clay Cliff Copper Cor Crom Dal Dun East Elder Fair Far Field Fin Fox Gold Green Grim Hal Ham Har Hart Haw Hazel Hel Hol Horn Hurst Kel Ken King Lam Lang Lin Lock Long Lyn Mar May Mel Mid Mill Mor Nor North Oak Or Os Pem Pen Pres Quin Rad Ram Red Rich Rock Ros Row Rush Sal Sand Sel Shel Sher Sin Somer South Stan Stock Stone Sut Thorn Til Tor Tren Tru Wal War Wat Wel West Whit Wil Win Wood Wor Wy Yar`.split(
    ' ',
  );
const ENDS =
  `ley ton ford field wood well worth by ham stead man son ward ridge more low ney bourne combe dale den er gate grave hall head house land lock mere mont over pool rick shaw side thorpe vale wick wright`.split(
    ' ',
  );
const PLAIN =
  `Smith Jones Taylor Brown Williams Wilson Johnson Davies Robinson Wright Thompson Evans Walker White Roberts Green Hall Wood Jackson Clarke Müller Schmidt Schneider Fischer Weber Meyer Wagner Becker Schulz Hoffmann Silva Santos Ferreira Pereira Oliveira Costa Rodrigues Martins Jesus Sousa Martin Bernard Dubois Petit Durand Leroy Moreau Simon Laurent Lefèvre García Fernández González López Martínez Sánchez Pérez Gómez Jiménez Ruiz Rossi Russo Ferrari Esposito Bianchi Romano Colombo Ricci Marino Greco Jansen Bakker Visser Smit Mulder Nowak Kowalski Wiśniewski Wójcik Kamiński Hansen Johansen Olsen Larsen Andersen Nilsson Eriksson Persson Patel Singh Sharma Kumar Gupta Khan Ahmed Hussain Begum Wang Zhang Chen Liu Tanaka Suzuki Sato O'Brien O'Connor Murphy Kelly Byrne Ryan McCarthy Walsh Doyle`.split(
    ' ',
  );
/** Family names, the commonest first. */
export const FAMILY: readonly string[] = [
  ...PLAIN,
  ...STEMS.flatMap((stem, at) =>
    ENDS.filter((_, end) => (at * 7 + end * 3) % 2 === 0).map((end) => stem + end),
  ),
];

export const SHORT: readonly (readonly string[])[] = [
  ['Robert', 'Bob', 'Rob', 'Bobby'],
  ['William', 'Bill', 'Will', 'Billy'],
  ['Richard', 'Dick', 'Rick', 'Rich'],
  ['Elizabeth', 'Liz', 'Beth', 'Betty', 'Lizzie'],
  ['Michael', 'Mike', 'Mick'],
  ['Thomas', 'Tom', 'Tommy'],
  ['James', 'Jim', 'Jimmy', 'Jamie'],
  ['Margaret', 'Maggie', 'Peggy', 'Meg'],
  ['Katherine', 'Kate', 'Kathy', 'Katie'],
  ['Catherine', 'Cathy', 'Kate', 'Cath'],
  ['Edward', 'Ed', 'Ted', 'Eddie'],
  ['Patricia', 'Pat', 'Trish', 'Patty'],
  ['Jennifer', 'Jen', 'Jenny'],
  ['Christopher', 'Chris'],
  ['Matthew', 'Matt'],
  ['Anthony', 'Tony'],
  ['Daniel', 'Dan', 'Danny'],
  ['Samuel', 'Sam'],
  ['Benjamin', 'Ben'],
  ['Alexander', 'Alex', 'Sandy'],
  ['Andrew', 'Andy', 'Drew'],
  ['Joseph', 'Joe'],
  ['David', 'Dave'],
  ['Stephen', 'Steve'],
  ['Steven', 'Steve'],
  ['Nicholas', 'Nick'],
  ['Susan', 'Sue', 'Susie'],
  ['Deborah', 'Debbie', 'Deb'],
  ['Rebecca', 'Becky'],
  ['Timothy', 'Tim'],
  ['Gregory', 'Greg'],
  ['Jonathan', 'Jon'],
  ['Victoria', 'Vicky'],
  ['Charlotte', 'Lottie'],
  ['Theresa', 'Tess', 'Terri'],
  ['Jacqueline', 'Jackie'],
  ['Alessandro', 'Sandro'],
  ['Francesca', 'Franca'],
  ['Katarzyna', 'Kasia'],
  ['Małgorzata', 'Gosia'],
  ['Magdalena', 'Magda'],
];
export const TRADE =
  `Bakery Couriers Florists Catering Logistics Foods Deliveries Kitchens Gardens Cycles Roasters Dairy Laundry Events Wholesale Grocers Markets Supplies Works Brewery`.split(
    ' ',
  );
export const LEGAL = ['', '', '', ' Ltd', ' GmbH', ' Lda', ' BV', ' SARL', ' AB', ' Inc'];
export const TITLES =
  `Buyer|Purchasing Manager|Operations Manager|Head of Operations|Owner|Founder|Fleet Manager|Logistics Manager|Managing Director|Shop Manager|Head Baker|Head of Procurement|Office Manager|Transport Coordinator|Director|Sales Manager|Facilities Manager|Warehouse Manager|Supply Chain Manager|Assistant Buyer`.split(
    '|',
  );
export const STREETS =
  `Station Road|High Street|Mill Lane|Church Street|Park Road|Victoria Road|Green Lane|Dock Road|Canal Street|Market Square|Bridge Street|Kings Road|Queens Avenue|Orchard Way|Hill Street|Quay Street|Harbour Road|Forge Lane|West Street|Chapel Row|Linden Avenue|Ferry Lane|Tannery Yard|Foundry Street|Cooper Close|Weaver Street|Abbey Road|Castle Street|Meadow Way|Rope Walk`.split(
    '|',
  );
export const CITIES =
  `Harbourton Millbridge Eastvale Northwick Oakhaven Saltmere Fernleigh Westbrook Kingsport Larkfield Stonebridge Ashcombe Brightwater Coalport Dunmere Elmstead Foxley Greystone Heathcombe Ivybridge`.split(
    ' ',
  );

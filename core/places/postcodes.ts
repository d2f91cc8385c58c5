/**
 * The town that a post code belongs to, by its first letters or digits: where no town is named, it says about where an
 * address is. GB: post towns of the postcode areas; FR, ES, IT: seats of the departments and provinces; DE, NL, BE, AT, CH,
 * PT: the largest town of a routing region. From memory, common knowledge of the trade; a test finds every one of the
 * towns in the gazetteer.
 */
const BY_COUNTRY: Readonly<Record<string, string>> = {
  GB: `AB Aberdeen|AL St Albans|B Birmingham|BA Bath|BB Blackburn|BD Bradford|BH Bournemouth|BL Bolton|BN Brighton|BR Bromley|BS Bristol|BT Belfast|CA Carlisle|CB Cambridge|CF Cardiff|CH Chester|CM Chelmsford|CO Colchester|CR Croydon|CT Canterbury|CV Coventry|CW Crewe|DA Dartford|DD Dundee|DE Derby|DG Dumfries|DH Durham|DL Darlington|DN Doncaster|DT Dorchester|DY Dudley|E London|EC London|EH Edinburgh|EN Enfield Town|EX Exeter|FK Falkirk|FY Blackpool|G Glasgow|GL Gloucester|GU Guildford|HA Harrow|HD Huddersfield|HG Harrogate|HP Hemel Hempstead|HR Hereford|HU Kingston upon Hull|HX Halifax|IG Ilford|IP Ipswich|IV Inverness|KA Kilmarnock|KT Kingston upon Thames|KW Kirkwall|KY Kirkcaldy|L Liverpool|LA Lancaster|LD Llandrindod Wells|LE Leicester|LL Llandudno|LN Lincoln|LS Leeds|LU Luton|M Manchester|ME Gillingham|MK Milton Keynes|ML Motherwell|N London|NE Newcastle upon Tyne|NG Nottingham|NN Northampton|NP Newport|NR Norwich|NW London|OL Oldham|OX Oxford|PA Paisley|PE Peterborough|PH Perth|PL Plymouth|PO Portsmouth|PR Preston|RG Reading|RH Redhill|RM Romford|S Sheffield|SA Swansea|SE London|SG Stevenage|SK Stockport|SL Slough|SM Sutton|SN Swindon|SO Southampton|SP Salisbury|SR Sunderland|SS Southend-on-Sea|ST Stoke-on-Trent|SW London|SY Shrewsbury|TA Taunton|TD Galashiels|TF Telford|TN Royal Tunbridge Wells|TQ Torquay|TR Truro|TS Middlesbrough|TW Twickenham|UB Southall|W London|WA Warrington|WC London|WD Watford|WF Wakefield|WN Wigan|WR Worcester|WS Walsall|WV Wolverhampton|YO York|ZE Lerwick`,
  FR: `01 Bourg-en-Bresse|02 Laon|03 Moulins|04 Digne-les-Bains|05 Gap|06 Nice|07 Privas|08 Charleville-Mézières|09 Foix|10 Troyes|11 Carcassonne|12 Rodez|13 Marseille|14 Caen|15 Aurillac|16 Angoulême|17 La Rochelle|18 Bourges|19 Tulle|20 Ajaccio|21 Dijon|22 Saint-Brieuc|23 Guéret|24 Périgueux|25 Besançon|26 Valence|27 Évreux|28 Chartres|29 Quimper|30 Nîmes|31 Toulouse|32 Auch|33 Bordeaux|34 Montpellier|35 Rennes|36 Châteauroux|37 Tours|38 Grenoble|39 Lons-le-Saunier|40 Mont-de-Marsan|41 Blois|42 Saint-Étienne|43 Le Puy-en-Velay|44 Nantes|45 Orléans|46 Cahors|47 Agen|48 Mende|49 Angers|50 Saint-Lô|51 Reims|52 Chaumont|53 Laval|54 Nancy|55 Bar-le-Duc|56 Vannes|57 Metz|58 Nevers|59 Lille|60 Beauvais|61 Alençon|62 Arras|63 Clermont-Ferrand|64 Pau|65 Tarbes|66 Perpignan|67 Strasbourg|68 Colmar|69 Lyon|70 Vesoul|71 Mâcon|72 Le Mans|73 Chambéry|74 Annecy|75 Paris|76 Rouen|77 Melun|78 Versailles|79 Niort|80 Amiens|81 Albi|82 Montauban|83 Toulon|84 Avignon|85 La Roche-sur-Yon|86 Poitiers|87 Limoges|88 Épinal|89 Auxerre|90 Belfort|91 Évry|92 Nanterre|93 Bobigny|94 Créteil|95 Pontoise`,
  ES: `01 Gasteiz / Vitoria|02 Albacete|03 Alicante|04 Almería|05 Ávila|06 Badajoz|07 Palma|08 Barcelona|09 Burgos|10 Cáceres|11 Cadiz|13 Ciudad Real|14 Córdoba|16 Cuenca|17 Girona|18 Granada|19 Guadalajara|21 Huelva|22 Huesca|23 Jaén|24 León|25 Lleida|26 Logroño|27 Lugo|28 Madrid|29 Málaga|30 Murcia|31 Pamplona|32 Ourense|33 Oviedo|34 Palencia|36 Pontevedra|37 Salamanca|39 Santander|40 Segovia|42 Soria|43 Tarragona|44 Teruel|45 Toledo|46 Valencia|47 Valladolid|48 Bilbao|49 Zamora|50 Zaragoza`,
  DE: `01 Dresden|04 Leipzig|06 Halle|07 Gera|08 Zwickau|09 Chemnitz|10 Berlin|12 Berlin|13 Berlin|14 Potsdam|15 Cottbus|17 Neubrandenburg|18 Rostock|19 Schwerin|20 Hamburg|21 Hamburg|22 Hamburg|23 Lübeck|24 Kiel|25 Itzehoe|26 Oldenburg|27 Bremerhaven|28 Bremen|29 Celle|30 Hannover|31 Hildesheim|32 Herford|33 Bielefeld|34 Kassel|35 Gießen|36 Fulda|37 Göttingen|38 Braunschweig|39 Magdeburg|40 Düsseldorf|41 Mönchengladbach|42 Wuppertal|44 Dortmund|45 Essen|46 Oberhausen|47 Duisburg|48 Münster|49 Osnabrück|50 Köln|51 Köln|52 Aachen|53 Bonn|54 Trier|55 Mainz|56 Koblenz|57 Siegen|58 Hagen|59 Hamm|60 Frankfurt am Main|61 Bad Homburg vor der Höhe|63 Offenbach|64 Darmstadt|65 Wiesbaden|66 Saarbrücken|67 Ludwigshafen am Rhein|68 Mannheim|69 Heidelberg|70 Stuttgart|71 Ludwigsburg|72 Tübingen|73 Göppingen|74 Heilbronn|75 Pforzheim|76 Karlsruhe|77 Offenburg|78 Konstanz|79 Freiburg|80 Munich|81 Munich|82 Starnberg|83 Rosenheim|84 Landshut|85 Ingolstadt|86 Augsburg|87 Kempten (Allgäu)|88 Friedrichshafen|89 Ulm|90 Nürnberg|91 Ansbach|92 Amberg|93 Regensburg|94 Passau|95 Bayreuth|96 Bamberg|97 Würzburg|98 Suhl|99 Erfurt`,
  NL: `10 Amsterdam|12 Hilversum|13 Almere Stad|14 Bussum|15 Zaandam|18 Alkmaar|20 Haarlem|21 Hoofddorp|23 Leiden|25 The Hague|26 Delft|27 Zoetermeer|28 Gouda|30 Rotterdam|31 Schiedam|33 Dordrecht|35 Utrecht|38 Amersfoort|43 Middelburg|48 Breda|50 Tilburg|52 's-Hertogenbosch|56 Eindhoven|59 Venlo|60 Weert|62 Maastricht|64 Heerlen|65 Nijmegen|68 Arnhem|73 Apeldoorn|74 Deventer|75 Enschede|80 Zwolle|82 Lelystad|89 Leeuwarden|94 Assen|97 Groningen`,
  BE: `1 Brussels|2 Antwerpen|30 Leuven|35 Hasselt|4 Liège|5 Namur|60 Charleroi|7 Mons|80 Brugge|85 Kortrijk|9 Gent`,
  AT: `1 Vienna|31 Sankt Pölten|40 Linz|50 Salzburg|60 Innsbruck|69 Bregenz|70 Eisenstadt|80 Graz|90 Klagenfurt am Wörthersee`,
  CH: `10 Lausanne|12 Genève|20 Neuchâtel|25 Biel/Bienne|30 Bern|40 Basel|45 Solothurn|50 Aarau|60 Luzern|65 Bellinzona|69 Lugano|70 Chur|80 Zürich|84 Winterthur|90 Sankt Gallen`,
  PT: `1 Lisbon|24 Leiria|27 Sintra|28 Almada|29 Setúbal|30 Coimbra|35 Viseu|38 Aveiro|40 Porto|41 Porto|42 Porto|43 Porto|44 Vila Nova de Gaia|47 Braga|48 Guimarães|49 Viana do Castelo|50 Vila Real|60 Castelo Branco|63 Guarda|70 Évora|78 Beja|80 Faro|90 Funchal|95 Ponta Delgada`,
  IT: `00 Rome|06 Perugia|07 Sassari|09 Cagliari|10 Turin|12 Cuneo|15 Alessandria|16 Genoa|20 Milan|21 Varese|24 Bergamo|25 Brescia|27 Pavia|29 Piacenza|30 Venice|31 Treviso|33 Udine|34 Trieste|35 Padova|36 Vicenza|37 Verona|38 Trento|39 Bolzano|40 Bologna|41 Modena|42 Reggio nell'Emilia|43 Parma|44 Ferrara|47 Rimini|48 Ravenna|50 Florence|56 Pisa|57 Livorno|60 Ancona|65 Pescara|70 Bari|80 Naples|84 Salerno|90 Palermo|95 Catania|98 Messina`,
};

/** How a post code of each country is written. */
const SHAPES: Readonly<Record<string, RegExp>> = {
  GB: /\b([A-Z]{1,2})\d[A-Z\d]?\s?\d[A-Z]{2}\b/,
  FR: /\b(?:F-)?(\d{5})\b/,
  ES: /\b(\d{5})\b/,
  DE: /\b(?:D-)?(\d{5})\b/,
  IT: /\b(?:I-)?(\d{5})\b/,
  NL: /\b(\d{4})\s?[A-Z]{2}\b/,
  BE: /\b(?:B-)?([1-9]\d{3})\b/,
  AT: /\b(?:A-)?([1-9]\d{3})\b/,
  CH: /\b(?:CH-)?([1-9]\d{3})\b/,
  PT: /\b(\d{4})-\d{3}\b/,
};

const tables = new Map(
  Object.entries(BY_COUNTRY).map(([country, text]) => [
    country,
    new Map(
      text.split('|').map((line): [string, string] => {
        const at = line.indexOf(' ');
        return [line.slice(0, at), line.slice(at + 1)];
      }),
    ),
  ]),
);

/** All towns that post codes lead to, with their country. */
export const POSTCODE_TOWNS: readonly (readonly [country: string, town: string])[] = [...tables].flatMap(
  ([country, towns]) => [...new Set(towns.values())].map((town) => [country, town] as const),
);

/**
 * The town that the post code in an address belongs to.
 * @param country ISO 3166-1 alpha-2
 * @returns null where none is written, or nothing is known of it
 */
export function postcodeTown(address: string, country: string): string | null {
  const [shape, towns] = [SHAPES[country], tables.get(country)];
  // The last one: a house number of four digits stands before it.
  const code = shape && [...address.matchAll(new RegExp(shape, 'g'))].at(-1)?.[1];
  if (!code || !towns) return null;
  return towns.get(code) ?? towns.get(code.slice(0, 2)) ?? towns.get(code.slice(0, 1)) ?? null;
}

/**
 * What towns are called where they are, or in a neighbour's language, where the gazetteer has another name: country, the
 * gazetteer's name, other names. From memory; a test finds every gazetteer name in the gazetteer.
 */
const LINES = `AT Vienna: Wien, Vienne, Viena
AT Graz: Gratz
BE Brussels: Brussel, Bruxelles, Brüssel, Bruselas
BE Antwerpen: Antwerp, Anvers, Amberes
BE Gent: Ghent, Gand
BE Brugge: Bruges
BE Liège: Luik, Lüttich
BE Leuven: Louvain
BE Mons: Bergen
BE Namur: Namen
CH Genève: Geneva, Genf, Ginebra, Ginevra
CH Zürich: Zurich, Zuerich, Zurigo
CH Bern: Berne, Berna
CH Basel: Bâle, Basle, Basilea
CH Luzern: Lucerne, Lucerna
CH Sankt Gallen: St. Gallen, Saint-Gall
CH Neuchâtel: Neuenburg
CH Biel/Bienne: Biel, Bienne
CZ Prague: Praha, Prag
CZ Pilsen: Plzeň
CZ Brno: Brünn
DE Munich: München, Muenchen, Monaco di Baviera
DE Köln: Cologne, Koeln, Colonia
DE Nürnberg: Nuremberg, Nuernberg, Núremberg
DE Hannover: Hanover
DE Düsseldorf: Duesseldorf
DE Frankfurt am Main: Frankfurt, Francfort
DE Freiburg: Freiburg im Breisgau
DE Braunschweig: Brunswick
DE Halle: Halle (Saale)
DE Münster: Muenster
DK Copenhagen: København, Kobenhavn, Kopenhagen
DK Århus: Aarhus
DK Odense: Odensee
ES Sevilla: Seville, Sevilha
ES Zaragoza: Saragossa, Saragosse
ES Córdoba: Cordova
ES Cadiz: Cádiz
ES Gasteiz / Vitoria: Vitoria-Gasteiz, Vitoria, Gasteiz
ES Donostia / San Sebastián: San Sebastián, San Sebastian, Donostia
ES Pamplona: Iruña, Pampeluna
ES Palma: Palma de Mallorca
ES A Coruña: La Coruña, Coruña, Corunna
FI Helsinki: Helsingfors
FI Turku: Åbo
FI Tampere: Tammerfors
FR Strasbourg: Straßburg, Strassburg, Estrasburgo
FR Marseille: Marseilles, Marsella
FR Lyon: Lyons
FR Nice: Nizza
GB Newcastle upon Tyne: Newcastle
GB Kingston upon Hull: Hull
GB Brighton: Brighton and Hove
GB London: Londres, Londen, Londra
GB Edinburgh: Édimbourg, Dùn Èideann
GB Cardiff: Caerdydd
GB Swansea: Abertawe
GB Newport: Casnewydd
GR Athens: Athina, Athen, Αθήνα
GR Thessaloníki: Thessaloniki, Salonica, Θεσσαλονίκη
HU Budapest: Budapesta
IE Dublin: Baile Átha Cliath
IE Cork: Corcaigh
IE Gaillimh: Galway
IE Luimneach: Limerick
IT Rome: Roma, Rom
IT Milan: Milano, Mailand
IT Turin: Torino
IT Florence: Firenze, Florenz
IT Venice: Venezia, Venedig
IT Naples: Napoli, Neapel
IT Genoa: Genova, Genua
IT Bolzano: Bozen
IT Padova: Padua
LU Luxembourg: Luxemburg, Lëtzebuerg
NL The Hague: Den Haag, 's-Gravenhage, La Haye, La Haya
NL 's-Hertogenbosch: Den Bosch
NL Almere Stad: Almere
NO Bergen: Bergen kommune
NO Oslo: Christiania
PL Warsaw: Warszawa, Warschau
PL Kraków: Krakow, Cracow, Krakau
PL Wrocław: Wroclaw, Breslau
PL Gdańsk: Gdansk, Danzig
PL Poznań: Poznan, Posen
PL Łódź: Lodz
PT Lisbon: Lisboa, Lissabon, Lisbonne
PT Porto: Oporto
RO Bucharest: București, Bukarest
RS Belgrade: Beograd, Belgrad
RU Moscow: Moskva, Moskau, Москва
SE Stockholm: Estocolmo
SE Göteborg: Gothenburg, Goteborg
SE Malmö: Malmo
SK Bratislava: Pressburg
TR Istanbul: İstanbul
UA Kyiv: Kiev, Kiew, Київ
US New York City: New York, NYC, Manhattan
BR São Paulo: Sao Paulo
BR Rio de Janeiro: Rio
CA Montréal: Montreal
CA Québec: Quebec City, Quebec
JP Tokyo: 東京
JP Osaka: 大阪
JP Kyoto: 京都
MX Mexico City: Ciudad de México, CDMX
`;

export interface LocalName {
  country: string;
  /** As the gazetteer has it. */
  town: string;
  name: string;
}
export const LOCAL_NAMES: readonly LocalName[] = LINES.trim()
  .split('\n')
  .flatMap((line) => {
    const [head = '', names = ''] = line.split(': ');
    const [country, town] = [head.slice(0, 2), head.slice(3)];
    return names.split(', ').map((name) => ({ country, town, name }));
  });

import { fold } from '../../people/text';

const list = (words: string): string =>
  words
    .trim()
    .split(/\s*\n\s*|,\s+/)
    .join('|');

const LEAVES =
  list(`(?:with )?(?:kind|kindest|best|warm|warmest|many|sincere)(?: and (?:kind|best|warm))? (?:regards|wishes|thanks)
  (?:kind|best|warm) ?regards,? and (?:many )?thanks, regards, all the best, all best, best, cheers, cheerio, bye, bye for now, thanks, many thanks
  thanks ?(?:&|and) ?regards, thanking you(?: in advance)?, warm wishes, thanks (?:again|so much|very much|a lot|in advance|and (?:best|kind) (?:regards|wishes)|a million|all|for your (?:help|time)), thank you(?: (?:again|so much|very much|in advance|kindly|for your (?:help|time)))?
  thank you and (?:kind|best) regards, with (?:many )?thanks, with best wishes, with kind regards, with thanks and best wishes, sincerely, yours, yours (?:sincerely|faithfully|truly|ever), sincerely yours, very truly yours, respectfully, cordially, take care, talk soon, speak soon, see you soon, until then, ta
  (?:looking|look) forward(?: to (?:hearing from you|your (?:reply|answer|quote|offer)|it))?, have a (?:good|great|nice) (?:day|week|weekend|one), warmly, kr, br, rgds, thx, tks, k regards, ttfn, slán
  (?:mit )?(?:freundlichen|besten|herzlichen|vielen|lieben|sonnigen|schönen) (?:grüßen|gruessen|grüssen|grüße|gruesse|grüsse|gruß|dank), (?:freundliche|beste|herzliche|viele|liebe|schöne|sonnige) (?:grüße|gruesse|grüsse), (?:freundlichen|besten|herzlichen|schönen|lieben) gruß, mfg, vg, lg, hochachtungsvoll, gruß, gruss, grüße, grüsse, liebe grüsse, servus, danke(?: und (?:viele|beste|liebe) grüße)?, vielen dank(?: (?:im voraus|und (?:viele|beste|freundliche) grüße))?
  (?:bien )?cordialement(?: vôtre)?, (?:bien )?amicalement, (?:bien )?à vous, salutations(?: distinguées)?, (?:meilleures|sincères) salutations, sincèrement, merci(?: (?:beaucoup|d['’]avance|et (?:bonne journée|à bientôt)))?, bonne (?:journée|soirée|fin de journée), à bientôt, bien (?:sincèrement|respectueusement), cdlt, bises, bisous, belle journée, mes salutations distinguées
  (?:com )?(?:os )?(?:meus )?(?:melhores|atentos|cordiais) (?:cumprimentos|saudações), cumprimentos, atenciosamente, atentamente, um abraço, abraço, abraços, (?:muito )?obrigad[oa](?: (?:desde já|e (?:um abraço|cumprimentos|até breve)))?, saudações, até breve, desde já obrigad[oa], grat[oa], att
  (?:un )?(?:cordial )?(?:saludo|saludos)(?: cordiales)?, (?:un )?abrazo, (?:muchas )?gracias(?: (?:de antemano|por adelantado|y un saludo))?, (?:reciba|reciban) un (?:cordial )?saludo, atte
  (?:met )?(?:vriendelijke|hartelijke|zonnige) (?:groet|groeten), groet, groeten, groetjes, mvg, hartelijk dank, alvast bedankt, bedankt, dank je wel, dank u wel, hoogachtend, (?:vriendelijke|hartelijke) groet(?:en)? uit .{3,20}
  (?:cordiali|distinti|cari) saluti, un (?:caro )?saluto, saluti, grazie(?: (?:mille|in anticipo|e (?:cordiali )?saluti))?, a presto
  (?:med )?(?:vänliga|venlige?|vennlig|bästa|bedste|beste|hyvin) (?:hälsningar|hilsen|hilsener|hälsning), (?:mange )?tak, tack(?: på förhand)?, (?:mvh|vh|hälsningar|hilsen|hälsar), ystävällisin terveisin, terveisin, kiitos, knús, kh, ngā mihi, diolch, go raibh maith agat, (?:s )?pozdravem, děkuji, üdvözlettel, tisztelettel, cu stimă, saygılarımla, lep pozdrav, cu respect, (?:z )?poważaniem, pozdrawiam`);
/** A line that takes leave, alone on its line or followed by a name. Common practice in the languages we read. */
export const VALEDICTION = new RegExp(`^\\s*(?:${LEAVES})\\s*(?:[,.!;~–—-]|$)`, 'iu');
/** The same before a name on one line: "Mvh Henning Solvang, Driftssjef". */
export const VALEDICTION_LEAD = new RegExp(`^\\s*(?:${LEAVES})[,!]?\\s+(?=\\p{L}{2})`, 'iu');

const TITLE_WORDS = new Set(
  `manager director officer head chief lead leader president chair chairman chairwoman chairperson owner co-owner coowner founder cofounder
  partner principal buyer purchaser purchasing procurement executive assistant associate administrator coordinator ordinator
  supervisor engineer developer designer architect planner analyst consultant adviser advisor specialist officer secretary
  treasurer accountant bookkeeper controller comptroller controller clerk representative rep agent technician mechanic baker
  florist caterer chef cook courier rider driver dispatcher logistician steward foreman forewoman storekeeper gardener
  proprietor proprietress trustee councillor councilor mayor alderman warden librarian teacher lecturer professor researcher
  scientist nurse doctor solicitor lawyer attorney counsel intern trainee apprentice ceo cto cfo coo cmo cio cpo md gm vp svp evp
  operations sales marketing facilities fleet
  bursar porter dean registrar provost vicar verger housekeeper concierge barista sommelier brewer butcher fishmonger grocer
  carpenter joiner plumber electrician fitter welder machinist operator merchandiser stylist photographer journalist editor
  publisher producer curator archivist ranger forester farmer grower winemaker distiller roaster stockist dealer broker auditor
  economist chemist pharmacist dentist therapist vet veterinarian paramedic midwife caretaker janitor cleaner inspector
  superintendent commissioner ambassador delegate freelancer contractor headteacher headmaster headmistress tutor coach trainer
  instructor facilitator organiser organizer host restaurateur landlord landlady publican innkeeper hotelier patissier milliner
  chro cro cdo cpo comms chandler upholsterer restorer beekeeper bookseller stationer tailor seamstress sacristan
  student apprentice volunteer treasurer steward advisor
  inkopare saljare saljchef platschef lagerchef delagare grundare ekonomichef forestandare driftschef ordforande
  indkober saelger salgschef bestyrer formand stifter innkjoper selger salgssjef butikksjef grunder styreleder
  johtaja paallikko omistaja perustaja hankintapaallikko myyntijohtaja
  wlascicielka kierowniczka specjalista specjalistka prezeska wspolwlasciciel handlowiec
  jednatel jednatelka majitel majitelka vedouci nakupci reditel reditelka ugyvezeto beszerzo igazgato tulajdonos
  addetto addetta impiegato capo magazziniere concejal concejala alcalde alcaldesa presidente tesoureiro vendedor vendedora
  conseiller conseillere president presidente tresorier tresoriere vendeur vendeuse magasinier logisticien logisticienne
  burgermeister burgermeisterin obmann wethouder voorzitter penningmeester projectleider
  geschaftsfuhrer geschaftsfuhrerin geschaftsfuhrung geschaeftsfuehrer geschaeftsfuehrerin geschaftsleitung inhaber inhaberin leiter leiterin leitung einkauf einkaufer einkauferin
  einkaufsleiter einkaufsleiterin vertrieb vertriebsleiter vertriebsleiterin betriebsleiter betriebsleiterin werkstattleiter werkstattleiterin prokurist prokuristin referent referentin
  sachbearbeiter sachbearbeiterin assistentin assistenz buchhaltung buchhalter buchhalterin backermeister backermeisterin konditormeisterin meister meisterin disponent disponentin vorstand projektleiter projektleiterin
  fuhrparkleiter fuhrparkleiterin filialleiter filialleiterin teamleiter teamleiterin abteilungsleiter abteilungsleiterin logistikleiter logistikleiterin floristin grunder grunderin mitinhaber mitinhaberin
  directeur directrice gerant gerante responsable acheteur acheteuse chef cheffe proprietaire fondateur fondatrice cofondateur cofondatrice associe associee
  comptable assistante charge chargee coordinateur coordinatrice boulanger boulangere patissier fleuriste traiteur adjoint adjointe maire secretaire dirigeant dirigeante patron patronne commercial commerciale
  gerente diretor diretora director directora comprador compradora socio socia proprietario proprietaria dono dona encarregado encarregada responsavel chefe
  administrador administradora coordenador coordenadora gestor gestora tecnico tecnica vereador vereadora fundador fundadora jefe jefa encargado encargada dueno duena
  propietario propietaria compras ventas contable asistente padeiro padeira panadero panadera
  eigenaar eigenares inkoper inkoopster hoofd inkoop bedrijfsleider bedrijfsleidster directie zaakvoerder zaakvoerster bestuurder medewerker medewerkster planner beheerder wagenparkbeheerder oprichter oprichtster vennoot filiaalmanager
  titolare direttore direttrice responsabile amministratore amministratrice acquisti ufficio fondatore fondatrice fornaio socio
  inkopschef vd agare verksamhetschef butikschef direktor direktorin indkober indkobschef ejer indehaver daglig leder innkjopssjef eier toimitusjohtaja ostopaallikko yrittaja kierownik wlasciciel dyrektor prezes`.split(
    /\s+/,
  ),
);
const TITLE_STEMS =
  /(?:manager|leiter|leiterin|inhaber|inhaberin|verwalter|verwalterin|verkaufer|verkauferin|verantwortlicher?|sprecher|sprecherin|planer|planerin|planner|lehrer|lehrerin|beheerder|verantwoordelijke|rektor|rektorin|leder|johtaja|paallikko|meister|meisterin|chef|sjef|director|direktor|berater|beraterin|beauftragte|beauftragter|referent|assistent|koordinator|koordinatorin|medewerker|adviseur|coordinator|ingenieur|techniker|technikerin|hoofd|fuhrer|fuhrerin|ansvarlig|ansvarig)$/;
const TITLE_SECTIONS =
  /^(?:head|vp|svp|chief|director|manager|lead|responsable|chef|leiter|leiterin|leitung|hoofd|responsabile|diretora?|gerente|encarregad[oa]|directeur|directrice) (?:of|de|du|des|da|do|dos|das|der|des|van|del|della|degli|acquisti|commerciale?|financiero|geral|comercial)\b/;

const isTitleWord = (word: string): boolean => TITLE_WORDS.has(word) || TITLE_STEMS.test(word);

/** How strongly a text reads as a job title: 0 no word of one, up to 1. */
export function titleLikeness(text: string): number {
  const folded = fold(text);
  const words = folded.split(' ');
  if (!folded || words.length > 9 || /[@]|\d{3}/.test(text)) return 0;
  if (TITLE_SECTIONS.test(folded)) return 1;
  const hits = words.filter(isTitleWord).length;
  if (!hits) return 0;
  return words.length <= 6 ? 1 : 0.6;
}

/** What a word before a number says of it; `phone` is any telephone, whichever kind. */
export type PhoneLabel = 'mobile' | 'work' | 'home' | 'fax' | 'phone';
type Label = PhoneLabel | 'email' | 'url' | 'address';

const LABELS: readonly [Label, RegExp][] = [
  ['fax', /^(?:(?:tele)?fax|f|faks|fx|telefaks|télécopie|facs(?:imile)?|fax\s?nr)$/i],
  [
    'mobile',
    /^(?:m|c|mob|mobile|mobil|mobiel|cell|cellphone|cel|celular|móvil|movil|móv|telemóvel|telemovel|tlm|tm|handy|gsm|portable|port|mobilné?|mobiltelefon|mobilnr|kännykkä|cellulare|cell phone|mobile phone|mobiltel|kom|cellular|mobiel nr|tel\.? mobil|tel\.? móvil|whatsapp|text|sms)$/iu,
  ],
  ['home', /^(?:h|home|privat|private|privé|priv|casa|thuis|domicile|home phone)$/iu],
  [
    'phone',
    /^(?:t|tel|tél|tel[eé]phone|téléphone|telefon|telefono|teléfono|telefone|telefoon|tlf|tf|puh|puhelin|ph|p|phone|fon|call|call us|ring|tel nr|tel no|telephone no|telnr|phone no|phone number|tfno|tfn|tlfn|teil|ffôn|ffôn\/tel|τηλ|тел|telef|fono|fone|tel\/whatsapp)$/iu,
  ],
  [
    'work',
    /^(?:o|off|office|work|w|d|dd|ddi|direct|direct line|direct dial|durchwahl|büro|buero|bureau|oficina|escritório|kontor|main|switchboard|zentrale|centrale|centralita|landline|festnetz|fixe|fixo|fijo|tel\/fax|shop|store|desk|reception|hq|fisso|ufficio|werk|vast|tel direct|tel dir|studio|bakery|workshop|kitchen|werkstatt)$/iu,
  ],
  ['email', /^(?:e|email|e-mail|mail|m@|correo|courriel|e-post|epost|sähköposti|posta)$/iu],
  ['url', /^(?:w|www|web|website|site|url|internet|homepage|online|sítio|page)$/iu],
  [
    'address',
    /^(?:a|address|adresse|morada|dirección|direccion|adres|indirizzo|adress|anschrift|visit|visit us)$/iu,
  ],
];

/** What the word before a value says the value is; null when it is no label. */
export function labelOf(word: string): Label | null {
  const bare = word.trim().replace(/^[\s([{*☎📞✆📱✉📧🌐📠📍]+|[\s:.)\]}*>=]+$/gu, '');
  if (!bare) return null;
  return LABELS.find(([, pattern]) => pattern.test(bare))?.[0] ?? null;
}

/** Text that belongs to a house and not to the sender: small print, registrations, virus notes. */
export const SMALL_PRINT =
  /\b(?:confidential(?:ity)?|intended (?:solely|only|recipient|for the)|disclaimer|registered (?:in|office|company|charity|number)|company (?:no|number|reg|registration)|vat (?:no|number|reg|id)|ust-?id|hrb\s*\d|hra\s*\d|amtsgericht|handelsregister|registergericht|sitz der gesellschaft|steuernummer|siret|siren|rcs|nif|nipc|cif|kvk|btw|iban|bic|cvr|org\.?\s?nr|virus|please consider the environment|think before (?:you )?print|before printing|unsubscribe|privileged|if you (?:are not|have received)|any unauthori[sz]ed|this (?:e-?mail|message) (?:and|is|may|contains|was)|diese (?:e-?mail|nachricht)|ce (?:message|courriel)|este (?:e-?mail|correo|mensaje)|esta mensagem|dit bericht|vertraulich|confidentiel|confidencial|aviso legal|vertrouwelijk|report (?:abuse|fraud|concerns)|complaints|out of hours|emergency|notfall|regulated by|authori[sz]ed (?:and|by)|geschäftsführer(?:in)?\s*:|vorstand\s*:|aufsichtsrat|capital social|data protection|datenschutz|privacy)/iu;

/** What a phone or a program adds by itself. */
export const DEVICE_LINE =
  /^\s*(?:(?:sent|written|typed) (?:from|with|via|by|on|using) .{2,60}|(?:von (?:meinem|unterwegs)|gesendet (?:von|mit)|envoyé (?:de|depuis)|enviado (?:do|desde|de|a partir)|verzonden (?:vanaf|met|via)|verstuurd vanaf|inviato da|sendt fra|skickat från) .{1,60}|get .{2,30} for .{2,20}|(?:please )?(?:excuse|forgive) .{0,40}(?:typos|brevity|thumbs).*)$/iu;

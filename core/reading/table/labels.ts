import { fold } from '../../people/text';
import type { PhoneType } from '../../people/phones';
import type { ClaimField } from '../types';

export interface Labelled {
  field: ClaimField;
  type?: PhoneType;
}

const list = (words: string): string[] => words.split(',').map((word) => fold(word));

/** What people write over a column, beside a field of a form, or before a colon, in the languages we read. */
const LABELS: readonly [Labelled, string[]][] = [
  [
    { field: 'email' },
    list(
      'email,e-mail,mail,email address,e-mail address,mail address,email 1,primary email,work email,business email,contact email,correo,correo electronico,courriel,adresse email,adresse mail,e-mail-adresse,emailadresse,mailadresse,e-postadress,e-post,epost,sahkoposti,endereco de email,indirizzo email,posta elettronica,e-mailadres,mailadres,person email,your email,email id',
    ),
  ],
  [
    { field: 'phone', type: 'mobile' },
    list(
      'mobile,mobile phone,mobile number,mob,cell,cell phone,cellphone,cell number,handy,handynummer,mobil,mobilnummer,mobiltelefon,mobiel,gsm,portable,telephone portable,tel portable,telemovel,tlm,movil,telefono movil,cellulare,mobile no,phone mobile,whatsapp,mobilnr',
    ),
  ],
  [{ field: 'phone', type: 'fax' }, list('fax,fax number,telefax,faxnummer,fax no')],
  [
    { field: 'phone', type: 'home' },
    list('home phone,home tel,private phone,privat,telefon privat,tel prive,phone home,home'),
  ],
  [
    { field: 'phone', type: 'work' },
    list(
      'work phone,office phone,business phone,direct,direct line,ddi,durchwahl,office,landline,phone work,phone office,tel buro,switchboard,company phone,festnetz',
    ),
  ],
  [
    { field: 'phone' },
    list(
      'phone,phone number,phone no,telephone,telephone number,tel,tel no,telefon,telefonnummer,telefono,telefone,telefoon,telefoonnummer,telefonnr,rufnummer,telephone fixe,numero de telephone,numero de telefono,contact number,number,call back number,callback,phone 1,tlf,telnr,your phone',
    ),
  ],
  [
    { field: 'givenName' },
    list(
      'given name,first name,firstname,forename,first,vorname,prenom,nome proprio,primeiro nome,nombre de pila,voornaam,fornamn,fornavn,nome di battesimo,given,christian name,etunimi,imie',
    ),
  ],
  [
    { field: 'familyName' },
    list(
      'family name,last name,lastname,surname,last,nachname,familienname,nom de famille,apelido,sobrenome,apellido,apellidos,achternaam,efternamn,etternavn,efternavn,cognome,family,sukunimi,nazwisko',
    ),
  ],
  [
    { field: 'fullName' },
    list(
      'name,full name,fullname,contact,contact name,person,person name,customer name,client,caller,who,lead,lead name,prospect,ansprechpartner,ansprechpartnerin,kontaktperson,kontakt,contactpersoon,naam,nom complet,nom et prenom,interlocuteur,nome completo,pessoa de contacto,contacto,nombre completo,nombre y apellidos,persona de contacto,referente,namn,navn,your name,spoke to,spoke with,nom,nome,nombre,attendee,delegate',
    ),
  ],
  [
    { field: 'jobTitle' },
    list(
      'job title,title,position,role,job,function,job role,occupation,designation,berufsbezeichnung,funktion,stelle,beruf,fonction,poste,intitule du poste,cargo,funcao,puesto,functie,functietitel,ruolo,mansione,befattning,stilling,tehtava,stanowisko,tatigkeit',
    ),
  ],
  [
    { field: 'companyName' },
    list(
      'company,company name,organisation,organization,organisation name,organization name,firm,business,business name,employer,account,account name,firma,firmenname,unternehmen,betrieb,entreprise,societe,raison sociale,empresa,nome da empresa,nombre de la empresa,compania,bedrijf,bedrijfsnaam,organisatie,azienda,ditta,societa,foretag,bedrift,virksomhed,yritys,shop,bakery,your company,org,company / organisation,trading name',
    ),
  ],
  [
    { field: 'url' },
    list(
      'website,web,url,web site,homepage,site,web address,webseite,internet,site web,site internet,pagina web,sitio web,sitio,sito,sito web,hemsida,hjemmeside,company website,domain',
    ),
  ],
  [
    { field: 'profile' },
    list(
      'profile,profile url,profile link,rollcall,social profile,profil,rollcall profile,member page,public profile',
    ),
  ],
  [
    { field: 'address' },
    list(
      'address,postal address,street address,full address,mailing address,anschrift,adresse,direccion,morada,endereco,adres,indirizzo,adress,work address,business address,office address,postanschrift,location,based at,where',
    ),
  ],
  [
    { field: 'birthday' },
    list(
      'birthday,birth date,date of birth,dob,born,geburtstag,geburtsdatum,date de naissance,anniversaire,data de nascimento,aniversario,fecha de nacimiento,cumpleanos,geboortedatum,verjaardag,data di nascita,compleanno,fodelsedag,bday',
    ),
  ],
  [
    { field: 'timeZone' },
    list('time zone,timezone,tz,zeitzone,fuseau horaire,fuso horario,zona horaria,tijdzone'),
  ],
  [
    { field: 'note' },
    list(
      'note,notes,comment,comments,remarks,remark,message,notiz,notizen,bemerkung,bemerkungen,nachricht,kommentar,remarque,remarques,commentaire,commentaires,observacoes,observacao,notas,nota,observaciones,comentarios,opmerking,opmerkingen,notitie,notities,note interne,anteckning,description,background,details,your message,enquiry,inquiry,comments / notes,what do you need,how can we help',
    ),
  ],
];

const BY_LABEL = new Map(
  LABELS.flatMap(([labelled, words]) => words.map((word) => [word, labelled] as const)),
);

/** What a heading says its values are; null when it says nothing we know. */
export function fieldOfLabel(label: string): Labelled | null {
  const folded = fold(label);
  if (!folded) return null;
  const exact = BY_LABEL.get(folded);
  if (exact) return exact;
  const bare = folded
    .replace(/\b(?:contact|person|primary|main|business|your|the|company|no|1|nr|no)\b/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return BY_LABEL.get(bare) ?? null;
}

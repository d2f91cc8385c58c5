import { fold } from './text';

/** Short and pet forms of given names in the languages we read; common practice. The first of a line is the root. */
const GROUPS =
  `robert bob rob bobby robbie bert | william bill will billy willy liam | richard dick rick rich richie ricky
  elizabeth liz beth betty lizzie eliza elisabeth lisbeth betsy libby | michael mike mick mikey micky micha | thomas tom tommy
  james jim jimmy jamie jem | margaret maggie peggy meg margie greta daisy | katherine kate kathy katie kathryn katharine kit kitty catherine cathy cath kathleen
  edward ed ted eddie teddy ned | patricia pat trish patty tricia | patrick pat paddy | jennifer jen jenny jenni | christopher chris kit topher
  christina christine chris tina chrissie kristina | matthew matt matty | anthony tony antony ant | daniel dan danny | samuel sam sammy
  samantha sam sammy | benjamin ben benny benji | alexander alex sandy alec xander sasha | alexandra alex sandra sandy lexi sasha | andrew andy drew
  joseph joe joey jo | joanna jo joanne joan | josephine jo josie | david dave davy | stephen steve stevie steven stefan | nicholas nick nicky nico
  susan sue susie suzanne susannah suzy | deborah debbie deb debra | rebecca becky becca beck | timothy tim timmy | gregory greg gregor
  jonathan jon jonny jonathon | john jon johnny jack jock | victoria vicky tori vic | victor vic | charlotte lottie charlie lotte | charles charlie chuck chas
  theresa tess terri teresa terry | jacqueline jackie jacqui | alessandro sandro ale | francesca franca fran frankie | frances fran franny frankie | francis frank fran
  katarzyna kasia | malgorzata gosia | magdalena magda lena maggie | wojciech wojtek | jakub kuba | agnieszka aga | tomasz tomek | piotr piotrek | pawel pawelek
  lawrence larry laurie laurence lorenzo | leonard len lenny leo | raymond ray | ronald ron ronnie | donald don donnie | kenneth ken kenny | gerald gerry jerry
  jeffrey jeff geoff geoffrey | frederick fred freddie freddy fritz friedrich | henry harry hank heinrich hal | harold harry hal | peter pete pietro
  philip phil pip phillip | zachary zach zack | nathan nate nathaniel | joshua josh | jacob jake jakob | abigail abby gail | amanda mandy | barbara barb babs barbie
  dorothy dot dottie dolly | emily em emmy millie | eleanor ellie nell nora ellen | florence flo florrie | gabriel gabe | gabriela gabi gaby gabriele
  isabella bella izzy isabel isobel | judith judy jude | kimberly kim | laura laurie lori | melissa mel missy | melanie mel | michelle shelly chelle | natalie nat
  pamela pam | penelope penny | rachel rach | roberta bobbie | sarah sally sara sadie | stephanie steph stefanie | valerie val | veronica ronnie vera | virginia ginny
  vincent vince vinny | walter walt wally | douglas doug | eugene gene | albert al bert albie | alfred alf alfie fred | arthur art | augustus gus | bartholomew bart
  bernard bernie | cameron cam | clifford cliff | cynthia cindy | diana di diane | desmond des | dominic dom nick | edmund ed eddie | gilbert gil | graham gray
  hannah hanna ann | ignacio nacho | francisco paco pancho fran kiko | jose pepe | manuel manolo manu | guadalupe lupe | antonio toni tonio | enrique quique
  joao joaozinho ze | jorge jorginho | eduardo edu duda | fernando nando fer | ricardo rick cadu | beatriz bia | isabel isa bela | giuseppe beppe peppe pino
  giovanni gianni vanni nino | luigi gigi gino | salvatore totò turi | johannes hannes hans jan johann | wilhelm willi willy helmut | ludwig lutz | katrin kati
  ulrike uli ulrich | sebastian basti seb bas | maximilian max maxi | josef sepp jupp | elisabeth lisa elsbeth sissi | johanna hanna jo | cornelis kees cor | hendrik henk rik
  gerardus gerard ger | adrianus adriaan ad arie | wilhelmina mina willemijn | dimitri dima mitja | aleksander olek sasza | mohammed mohamed muhammad mo mohammad md | yusuf youssef joseph`
    .split(/\s*[|\n]\s*/)
    .map((line) => fold(line).split(' '));

const ROOTS = new Map<string, string[]>();
for (const [root = '', ...forms] of GROUPS)
  for (const name of [root, ...forms]) ROOTS.set(name, [...(ROOTS.get(name) ?? []), root]);

/** The full names a given name may be short for, itself among them; folded. */
export const rootsOf = (given: string): readonly string[] => ROOTS.get(given) ?? [given];

const FORMS = new Map<string, string[]>();
for (const [name, roots] of ROOTS)
  for (const root of roots) FORMS.set(root, [...(FORMS.get(root) ?? []), name]);

/** All the forms a given name may take, short and full, itself first; folded. */
export const formsOf = (given: string): string[] => [
  ...new Set([given, ...rootsOf(given).flatMap((root) => FORMS.get(root) ?? [root])]),
];

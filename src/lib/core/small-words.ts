/**
 * The small words of languages that rarely change, by what they do to the words around them: they open a clause or a
 * phrase, or hold on to what follows. English has classes of its own (`english.ts`).
 */
import { ENGLISH } from './english';

export interface SmallWords {
  /** Articles, possessives and the like: nothing comes between them and what they belong to. */
  readonly determiners: ReadonlySet<string>;
  readonly prepositions: ReadonlySet<string>;
  /** Begin a clause, or join one to another. */
  readonly openers: ReadonlySet<string>;
  /** Subjects, auxiliaries, negations and clitics that hold on to the verb behind them. */
  readonly clinging: ReadonlySet<string>;
}

const list = (words: string): ReadonlySet<string> => new Set(words.split(' '));
const classes = (determiners: string, prepositions: string, openers: string, clinging: string): SmallWords => ({
  determiners: list(determiners),
  prepositions: list(prepositions),
  openers: list(openers),
  clinging: list(clinging)
});

const NORWEGIAN = classes(
  'en ei et den det de denne dette disse min mi mitt mine din di ditt dine sin si sitt sine hans hennes deres vår vårt våre noen noe alle hver hvert ingen ein eit dei nokre kvar kvart ingen',
  'i på av til fra frå med om for ved under over etter før mellom mot uten utan gjennom gjennom hos rundt langs innen siden',
  'og men eller så fordi mens når da hvor hvem som at hvis dersom om enn fordi medan når då kvar kven viss',
  'jeg du han hun vi dere de eg ho me dykk dei er var har hadde skal skulle vil ville kan kunne må ikke ikkje å'
);

const BY_LANGUAGE: Readonly<Record<string, SmallWords>> = {
  en: {
    determiners: ENGLISH.determiners,
    prepositions: ENGLISH.prepositions,
    openers: ENGLISH.openers,
    clinging: new Set([...ENGLISH.subjects, ...ENGLISH.auxiliaries, ...ENGLISH.tight])
  },
  es: classes(
    'el la los las lo un una unos unas este esta estos estas ese esa esos esas aquel aquella aquellos aquellas mi mis tu tus su sus nuestro nuestra nuestros nuestras cada todo toda todos todas otro otra otros otras algún alguna ningún ninguna cualquier',
    'a al ante bajo con contra de del desde durante en entre hacia hasta mediante para por según sin sobre tras',
    'y e o u pero sino aunque porque pues que qué quien quién quienes cual cuál cuales cuándo cuando donde dónde mientras como cómo cuánto si cuya cuyo ni',
    'yo tú él ella nosotros ellos ellas se me te le les nos os no ha he has han hemos había habían es son era eran está están estaba fue ser muy tan más menos'
  ),
  ca: classes(
    'el la els les un una uns unes aquest aquesta aquests aquestes aquell aquella aquells aquelles el meu la meva el seu la seva els seus les seves nostre nostra cada tot tota tots totes altre altra altres algun alguna cap',
    'a al als amb contra de del dels des durant en entre fins cap per pel pels segons sense sobre sota',
    'i o però sinó encara perquè doncs que què qui quin quina quan on mentre com si ni',
    'jo tu ell ella nosaltres ells elles es se em et li els ens us no hi ha he has han hem havia és són era eren està estan estava va van vaig vam molt tan més menys'
  ),
  gl: classes(
    'o a os as un unha uns unhas este esta estes estas ese esa eses esas aquel aquela meu miña seu súa seus súas noso nosa cada todo toda todos todas outro outra outros outras algún algunha ningún ningunha',
    'a ao á aos ás ante baixo con contra de do da dos das desde durante en no na nos nas entre cara ata mediante para por polo pola segundo sen sobre tras',
    'e ou pero senón aínda porque pois que qué quen cal cales cando onde mentres como se nin',
    'eu ti el ela nós eles elas me te lle lles nos vos non é son era eran está están estaba foi moi tan máis menos'
  ),
  pt: classes(
    'o a os as um uma uns umas este esta estes estas esse essa esses essas aquele aquela aqueles aquelas meu minha meus minhas seu sua seus suas nosso nossa cada todo toda todos todas outro outra outros outras algum alguma nenhum nenhuma',
    'a ao à aos às ante após até com contra de do da dos das desde durante em no na nos nas entre para per perante por pelo pela pelos pelas sem sob sobre num numa',
    'e ou mas porém embora porque pois que quê quem qual quais quando onde enquanto como se nem cujo cuja',
    'eu tu ele ela nós eles elas me te lhe lhes nos vos se não é são era eram está estão estava foi tem têm tinha muito tão mais menos'
  ),
  it: classes(
    'il lo la i gli le un uno una questo questa questi queste quel quello quella quei quegli quelle mio mia miei mie tuo tua suo sua suoi sue nostro nostra nostri nostre ogni tutto tutta tutti tutte altro altra altri altre qualche nessun nessuna alcuni alcune',
    'a al allo alla ai agli alle con contro da dal dallo dalla dai dagli dalle di del dello della dei degli delle durante in nel nello nella nei negli nelle fra tra per senza sopra sotto su sul sullo sulla sui sugli sulle verso',
    'e ed o oppure ma però anche perché che chi cui quale quali quando dove mentre come se né',
    'io tu lui lei noi loro si mi ti gli ci vi non è sono era erano ha ho hai hanno abbiamo aveva avevano fu molto così più meno'
  ),
  fr: classes(
    'le la les un une des ce cet cette ces mon ma mes ton ta tes son sa ses notre nos votre vos leur leurs chaque tout toute tous toutes autre autres quelque quelques aucun aucune',
    'à au aux avec chez contre dans de du depuis dès durant en entre envers jusque par parmi pendant pour sans selon sous sur vers',
    'et ou mais donc car que qui quoi dont quand où lorsque puisque comme si ni parce quoique',
    'je tu il elle on nous vous ils elles se me te le lui leur y ne pas n est sont était étaient a ai as ont avons avait avaient fut très si plus moins'
  ),
  ro: classes(
    'un o niște acest această acești aceste acel acea acei acele fiecare tot toată toți toate alt altă alți alte',
    'la în din de pe cu fără pentru prin peste sub spre către după între până lângă contra',
    'și sau dar ci deși fiindcă că care cine când unde cum dacă nici iar',
    'eu tu el ea noi voi ei ele se mă te îl o îi le nu este e sunt era erau am ai are au a foarte mai'
  ),
  de: classes(
    'der die das den dem des ein eine einen einem einer eines dieser diese dieses diesen diesem jener jene jenes mein meine meinen meinem meiner dein deine sein seine seinen seinem seiner ihr ihre ihren ihrem ihrer unser unsere unseren euer eure jeder jede jedes jeden kein keine keinen keinem keiner alle einige',
    'in im ins an am ans auf aus bei beim mit nach von vom zu zum zur für durch gegen ohne um über unter vor hinter neben zwischen seit bis während wegen trotz',
    'und oder aber denn sondern dass weil obwohl während wenn als ob bevor nachdem damit sobald wer was wo wie',
    'ich du er sie es wir ihr man nicht ist sind war waren hat haben hatte hatten wird werden wurde wurden kann können muss müssen soll sehr so zu'
  ),
  nl: classes(
    'de het een deze dit die dat mijn jouw je zijn haar ons onze jullie hun elke elk iedere ieder geen alle sommige',
    'in op aan van voor met bij naar uit over onder door tegen zonder om tot tussen na sinds tijdens',
    'en of maar want dus dat omdat hoewel terwijl als wanneer toen wie wat waar hoe',
    'ik jij hij zij ze wij we het niet is zijn was waren heeft hebben had hadden wordt worden werd kan kunnen moet zal zeer te'
  ),
  sv: classes(
    'en ett den det de denna detta dessa min mitt mina din ditt dina sin sitt sina hans hennes deras vår vårt våra någon något några alla varje ingen inget',
    'i på av till från med om för vid under över efter före mellan mot utan genom hos runt längs inom sedan',
    'och men eller så för därför medan när då var vem som att om än eftersom',
    'jag du han hon vi ni de är var har hade ska skulle vill ville kan kunde måste inte att'
  ),
  da: classes(
    'en et den det de denne dette disse min mit mine din dit dine sin sit sine hans hendes deres vor vores nogen noget nogle alle hver hvert ingen intet',
    'i på af til fra med om for ved under over efter før mellem mod uden gennem hos rundt langs inden siden',
    'og men eller så fordi mens når da hvor hvem som at hvis om end',
    'jeg du han hun vi de er var har havde skal skulle vil ville kan kunne må ikke at'
  ),
  nb: NORWEGIAN,
  nn: NORWEGIAN,
  no: NORWEGIAN
};

/** The small words of a language by its tag; `null` where none are known. */
export const smallWordsOf = (language: string): SmallWords | null =>
  BY_LANGUAGE[language.split('-')[0]!.toLowerCase()] ?? null;

import { basisIn, unitIn, type Basis, type LabUnit } from './units';

// What the headings of a laboratory's table say.

/** Of which sample a row is. */
export type About =
  | 'field'
  | 'label'
  | 'date'
  | 'depth'
  | 'depth_top'
  | 'depth_bottom'
  | 'crop'
  | 'part'
  | 'stage'
  | 'store'
  | 'material'
  | 'cores';
/** Columns of a table with one result a row. */
export type LongPart = 'parameter' | 'result' | 'unit' | 'method';

export interface Measured {
  /** What was measured: an element, or a property. */
  quantity: string;
  /** The form in which it is reported; null where the heading leaves that open. */
  form: string | null;
  unit: LabUnit | null;
  basis: Basis | null;
  /** The text without unit and basis: the method stands in it. */
  words: string;
}
export type Heading =
  | { kind: 'about'; about: About; unit: LabUnit | null; rank: number }
  | { kind: 'long'; part: LongPart }
  | { kind: 'measured'; measured: Measured }
  | { kind: 'not_result'; reason: string }
  | { kind: 'unknown' };

/** Small letters without their marks: what a heading is compared in. */
export const folded = (text: string): string =>
  text
    .normalize('NFD')
    .replaceAll(/\p{M}/gu, '')
    .replaceAll('ß', 'ss')
    .toLowerCase()
    .replaceAll(/[_\s\u00a0]+/gu, ' ')
    .trim();

const NOT_RESULTS: readonly (readonly [RegExp, string])[] = [
  [
    /\b(report(ed)?|received|receipt|arriv\w*|printed|issued|analysed|analyzed|analysis date|date of (report|analysis|receipt)|eingang\w*|ausgang\w*|bericht\w*|prufbericht\w*|analysedatum|reception|recu|rapport|edition|recepcion|informe|emision|rapportdatum|ontvangst\w*)\b/u,
    'a date of the laboratory, not of the sampling',
  ],
  [
    /\b(target|optim\w+|desired|goal|guide ?line|ideal|ziel\w*|soll\w*|optimal\w*|objectif|souhaitable|objetivo|streef\w*|wanted)\b/u,
    'a target, not a result',
  ],
  [
    /\b(sufficien\w+|normal|reference)\b.*\b(from|to|range|low|high|min|max)\b|\b(range|referenzbereich|normalbereich|bereich|plage|rango|norm(wert)?e?s?)\b|^(from|to|min\w*|max\w*)$/u,
    'a range, not a result',
  ],
  [
    /\b(limit\w*|threshold|grenzwert\w*|richtwert\w*|vorsorgewert\w*|seuil|valeur limite|limite|grenswaarde|maximum allowed|permitted)\b/u,
    'a limit, not a result',
  ],
  [
    /\b(class|rating|status|index|level|interpretation|judge?ment|gehaltsklasse|versorgung\w*|klasse|stufe|bewertung|beurteilung|urteil|classe|appreciation|interpretacion|clase|nivel|waardering|evaluation|verdict)\b/u,
    'a class or judgement, not a result',
  ],
  [
    /\b(recommend\w*|advice|advised|requirement|need|dose|rate|empfehlung\w*|dungebedarf|dungeempfehlung|conseil\w*|recomendacion\w*|advies)\b/u,
    'a recommendation, not a result',
  ],
  [
    /[$€£]|\b(value|price|cost|worth|dungewert|wert|preis|prix|valeur|precio|valor)\b.*(\/|per|pro|ton|t\b)|\b(price|cost|preis|prix|precio)\b/u,
    'money, not a result',
  ],
  [
    /\b(note|notes|remark\w*|comment\w*|bemerkung\w*|anmerkung\w*|hinweis|remarque\w*|observa\w*|nota|opmerking\w*)\b/u,
    'a remark',
  ],
  [
    /\b(hour|time|uhrzeit|heure|hora|operator|sampler|probenehmer|client|customer|kunde|auftraggeber|order|auftrag\w*|laboratory|labor|laboratoire|laboratorio|grower|farm|betrieb|page|temperature)\b/u,
    'not a result',
  ],
  [
    /\b(field capacity|feldkapazitat|wilting|available water|base sat\w*|basensattigung|saturation|% sat|ratio|verhaltnis|rapport)\b/u,
    'not a result that is brought in',
  ],
  [
    /\b(difference|diff\.?|deviation|as % of|in % of|% of good|relative|abweichung|ecart|mean|average|mittel\w*|moyenne|media|median|std\.?|sd|uncertainty|messunsicherheit|incertitude|\+\/-)\b/u,
    'worked out, not a result',
  ],
];

const ABOUTS: readonly (readonly [RegExp, About, number])[] = [
  [
    /^(depth|tiefe|profondeur|profundidad\w*|diepte|layer|schicht|horizon\w*)\s?\(?(from|top|von|start|upper|oben|de|desde|van|begin|ab)\b.*|^(top|upper) depth|^(from|von|top|upper|oben|desde)( \(?(cm|in|depth|tiefe)\)?)?$/u,
    'depth_top',
    0,
  ],
  [
    /^(depth|tiefe|profondeur|profundidad\w*|diepte|layer|schicht|horizon\w*)\s?\(?(to|bottom|bis|end|lower|unten|a|hasta|tot|jusqu\w*)\b.*|^(bottom|lower) depth|^(to|bis|bottom|lower|unten|hasta)( \(?(cm|in|depth|tiefe)\)?)?$/u,
    'depth_bottom',
    0,
  ],
  [
    /^(sample |sampling |entnahme|proben?)?(depth|tiefe|bodentiefe|profondeur|profundidad|diepte|layer|schicht|horizont?e?)\b/u,
    'depth',
    0,
  ],
  [
    /\b(date|day|datum|fecha|data|dato)\b.*\b(sampl\w+|taken|collect\w*|pick\w*|entnahme|probe\w*|prelev\w*|muestreo|toma|harvest\w*)|\b(sampl\w+|collection|probenahme\w*|entnahme\w*|prelevement|muestreo)\b.*\b(date|day|datum|fecha|am|tag)\b|^(sampled( on)?|collected( on)?|taken|picked|probenahme|beprobt|entnahme|entnommen|preleve|prelevement|muestreado|bemonsterd)$|^(probe(nahme|n)?|entnahme)[- ]?(datum|tag)$|\b(datum (monstername|van bemonstering)|data (di )?(prelievo|campionamento)|data d[ae] (coleta|amostragem)|monsternamedatum|datum pobrania|data pobrania)\b/u,
    'date',
    0,
  ],
  [/^(date|datum|fecha|data|day|tag|jour|dia)$/u, 'date', 2],
  [
    /^(field|paddock|block|parcel|parcelle|parcela|schlag|feld|flache|flurstuck|ilot|lote|talhao|perceel|champ|campo|plot|management zone|camp|stuck)( name| id| no| nr|name)?\b/u,
    'field',
    0,
  ],
  [/^(site|location|ort|standort|lieu|lugar|station)$/u, 'field', 2],
  [
    /^(plant part|part|part sampled|organ\w*|pflanzenteil|tissue|sample type|matrix|partie|parte|plantendeel|probenart)$/u,
    'part',
    0,
  ],
  [
    /^(growth stage|stage|crop stage|development\w*|entwicklungsstadium|stadium|ec stadium|stade|fase|estadio|bbch|stadio|groeistadium)( bbch)?\b/u,
    'stage',
    0,
  ],
  [
    /^(crop|culture|kultur|cultivo|fruchtart|frucht|gewas|species|plant|coltura|cultura|crop type|art)$/u,
    'crop',
    0,
  ],
  [
    /^(store|storage|lager\w*|stockage|opslag|vasca|stoccaggio|heap|pit|tank|lagoon|deposito|almacen|source of manure|lagerstatte|fosse|miete)$/u,
    'store',
    0,
  ],
  [
    /^(material|manure( type)?|wirtschaftsdunger|dunger|dungerart|produit|product|producto|type|kind|art des dungers|source|quelle|herkunft)$/u,
    'material',
    0,
  ],
  [/^(no\.? of )?cores|^einstiche|^carottes/u, 'cores', 0],
  [
    /^(sample|probe|echantillon|muestra|monster|muster|specimen|bag)s?\b.*\b(id|no|nr|number|name|nummer|label|code|ref|reference|#)\b|^(sample|probe|monster|staal|campione|amostra|probennr|probennummer|proben-nr|echantillon|muestra|muster|label|bag|reading|reference|ref|bezeichnung|n[o°º] ?(d'?)?echantillon|numero|id|point|site id|monsternummer)\.?( ?#)?$|^n[°o] ech/u,
    'label',
    0,
  ],
  [
    /^(lab|labor|laboratory|laboratorium|laboratoire|laboratorio)[ .-]?\s?(no|nr|number|id|nummer|ref|code|#|sample)\b|^(labornummer|labornr|lab\.?-?nr|lab ?#|labor-?nr|laboratory number|analysennummer|barcode)\.?|^lab( |-)?#/u,
    'label',
    1,
  ],
];
const LONG: readonly (readonly [RegExp, LongPart])[] = [
  [
    /^(parameter|param\w*|nutrient|element|analyte|analysis|test|determination|bestimmung|messgrosse|kenngrosse|untersuchung|nahrstoff|analyse|elemento|determinacion|determinations?|component|property|characteristic|eigenschaft|parametre|parametro)s?$/u,
    'parameter',
  ],
  [
    /^(result|results|value|values|ergebnis|ergebnisse|wert|messwert|gehalt|resultat|resultats|resultado|resultados|valeur|valor|found|content|uitslag|waarde|concentration)$/u,
    'result',
  ],
  [/^(unit|units|einheit|unite|unites|unidad|unidades|eenheid|masseinheit)$/u, 'unit'],
  [
    /^(method|methods|methode|extraction|extractant|extract|verfahren|metodo|extraktion)$/u,
    'method',
  ],
];

/** Element or property, the form of it, and how it is written: symbols in their own letters. */
const SPELT: readonly (readonly [RegExp, string, string | null])[] = [
  // Words come in small letters without marks.
  [/\bbuffer|\bpuffer|ph ?(smp|bc|sikora|ae|tampon)\b|\bsmp\b/u, 'buffer_ph', ''],
  [
    /^(?!.*\b(kcl|cacl2?|ca cl2)\b)(soil )?ph\b.*(h2o|water|wasser|eau|agua)|ph[- ]?(h2o|w)\b|^ph ?1:/u,
    'ph',
    'water',
  ],
  [/\bph\b.*\bcacl2?\b|\bcacl2?\b.*\bph\b|\bph\b.*ca cl/u, 'ph', 'cacl2'],
  [/\bph\b.*\bkcl\b|\bkcl\b.*\bph\b/u, 'ph', 'kcl'],
  [/^(soil )?ph\b|^ph[- ]?wert\b/u, 'ph', null],
  [/\bsar\b|sodium adsorption/u, 'sar', ''],
  [
    /^(e\.?c\.?|ecw|ece|ce)\b|conductiv|leitfahig|conductivit|conductividad|geleidbaar|^salinit|^salt\b|salzgehalt/u,
    'ec',
    '',
  ],
  [/hardness|\bharte\b|gesamtharte|durete|dureza/u, 'hardness', ''],
  [/\bbrix\b/u, 'brix', ''],
  [/^c ?[/:] ?n\b|c[/:]n[- ](ratio|verhaltnis)|carbon.?nitrogen/u, 'c_to_n', ''],
  [
    /organic matter|\borg\.? (matter|substanz)|\bo\.?m\.?\b|humus|matiere organique|\bmo\b(?= ?%)|materia organica|organische (substanz|stof)|organische masse|\boss?\b|loss on ignition|\bloi\b|gluhverlust/u,
    'organic_matter',
    '',
  ],
  [
    /organic carbon|\bo\.?c\.?\b|\btoc\b|\bc ?org\b|corg|carbone organique|carbono organico|\bsoc\b|organischer kohlenstoff/u,
    'organic_carbon',
    '',
  ],
  [/\bc\.?e\.?c\.?\b|\bkak\b|\bcic\b|\bctc\b|cation exchange|kationenaustausch/u, 'cec', ''],
  [/^(clay|ton|argile|arcilla|klei|lutum)\b/u, 'clay', ''],
  [/^(stones?|steine?|cailloux|piedras|gravel|steingehalt)\b/u, 'stones', ''],
  [/^(sand|silt|schluff|limon|sable|arena|limo)\b|^texture|bodenart/u, 'texture', ''],
  [
    /^(bulk )?(density|dichte|rohdichte|lagerungsdichte|densite|densidad|specific gravity|volumengewicht|dichtheid)\b|masse volumique/u,
    'density',
    '',
  ],
  [
    /moisture|feuchte|wassergehalt|humidite|humedad|water content|vochtgehalt|teneur en eau/u,
    'moisture',
    '',
  ],
  [
    /^(dry matter|dry solids|total solids|solids|d\.?m\.?|t\.?s\.?|t\.?m\.?|m\.?s\.?|trockenmasse|trockensubstanz|trockenruckstand|matiere seche|materia seca|droge stof|ds)\b/u,
    'dry_matter',
    '',
  ],
  [/kjeldahl|\btkn\b/u, 'kjeldahl_n', 'n'],
  [/\borganic n|\bn org|organischer? n|norg\b|organic nitrogen|azote organique/u, 'organic_n', 'n'],
  [
    /\b(no3[\s_-]*|nitrat\w*[\s_-]+)(n|nitrogen|stickstoff)\b|\bn[\s_-]?\(?no3|nitratstickstoff|azote nitrique|nitrogeno nitrico|\bno3n\b|\bn[ -]nitr/u,
    'no3_n',
    'n',
  ],
  [/\bno3\b|\bno3-/u, 'no3_n', 'no3'],
  [/nitrat|nitric/u, 'no3_n', null],
  [
    /\b(nh[34][\s_-]*|ammoni\w*[\s_-]+)(n|nitrogen|stickstoff)\b|\bn[\s_-]?\(?nh[34]|ammonium\w*stickstoff|ammoniakstickstoff|azote ammoniacal|nitrogeno amoniacal|\bnh4n\b/u,
    'nh4_n',
    'n',
  ],
  [/\bnh4\b/u, 'nh4_n', 'nh4'],
  [/\bnh3\b/u, 'nh4_n', 'nh3'],
  [/ammoni/u, 'nh4_n', null],
  [/\bn ?min\b|mineral n\b|mineralischer stickstoff|azote mineral/u, 'mineral_n', 'n'],
  [
    /\b(so4[\s_-]*|sul(ph|f)ate?[\s_-]+)(s|sul(ph|f)ur|schwefel)\b|\bs[\s_-]so4|\bso4s\b/u,
    'so4_s',
    's',
  ],
  [/\bso4\b/u, 'so4_s', 'so4'],
  [/\bso3\b/u, 's', 'so3'],
  [/sul(ph|f)at/u, 'so4_s', null],
  [/\bp ?2 ?o ?5\b/u, 'p', 'p2o5'],
  [/\bpo4[\s_-]?p\b/u, 'p', 'p'],
  [/\bpo4\b/u, 'p', 'po4'],
  [/\bk ?2 ?o\b/u, 'k', 'k2o'],
  [/\bmgo\b/u, 'mg', 'mgo'],
  [/\bcao\b/u, 'ca', 'cao'],
  [/\bna2o\b/u, 'na', 'na2o'],
  [/bicarbonat|hydrogencarbonat|\bhco3\b/u, 'hco3', ''],
  [/\bco3\b|carbonat/u, 'co3', ''],
  [/\bchlorid|\bchlorure|\bcloruro|\bchlorine\b|\bchlor\b/u, 'cl', 'cl'],
  [/^phosphat|^fosfato|\bphosphate\b/u, 'p', null],
  [/^(potash|kali|potasse)\b/u, 'k', null],
  [/^(magnesia)\b/u, 'mg', null],
  [/nitrogen|stickstoff|\bazote\b|nitrogeno|\bazoto\b|stikstof/u, 'n', 'n'],
  [/phosphor|fosforo|fosfor|\bbray\b/u, 'p', 'p'],
  [/potassium|\bkalium|\bpotasio|\bpotassio/u, 'k', 'k'],
  [/magnesi|magnesium/u, 'mg', 'mg'],
  [/calci/u, 'ca', 'ca'],
  [/sul(ph|f)ur|schwefel|soufre|azufre|zwavel|enxofre|zolfo/u, 's', 's'],
  [/sodium|natrium|\bsodio/u, 'na', 'na'],
  [/\bzinc|\bzink|\bcinc/u, 'zn', 'zn'],
  [/mangan/u, 'mn', 'mn'],
  [/copper|kupfer|cuivre|\bcobre|koper|\brame\b/u, 'cu', 'cu'],
  [/\biron\b|\beisen|\bfer\b|hierro|\bijzer|\bferro/u, 'fe', 'fe'],
  [/\bboron|\bbor\b|\bbore\b|\bboro\b|\bborium/u, 'b', 'b'],
  [/molybd/u, 'mo', 'mo'],
  [/alumin/u, 'al', 'al'],
  [/silic|silizium/u, 'si', 'si'],
  [/cadmium|cadmio/u, 'cd', 'cd'],
  [/\blead\b|\bblei\b|plomb|plomo/u, 'pb', 'pb'],
  [/nickel|niquel/u, 'ni', 'ni'],
  [/chromium|\bchrom\b|chrome|cromo/u, 'cr', 'cr'],
  [/mercury|quecksilber|mercure|mercurio/u, 'hg', 'hg'],
  [/arsen/u, 'as', 'as'],
  [/selen/u, 'se', 'se'],
  [/cobalt|kobalt|cobalto/u, 'co', 'co'],
];
const SYMBOLS = [
  'N',
  'P',
  'K',
  'S',
  'Ca',
  'Mg',
  'Na',
  'Cl',
  'Fe',
  'Mn',
  'Zn',
  'Cu',
  'B',
  'Mo',
  'Al',
  'Si',
  'Cd',
  'Pb',
  'Ni',
  'Cr',
  'Hg',
  'As',
  'Se',
  'Co',
];

const tokensOf = (text: string): string[] => text.split(/[^\p{L}\p{N}]+/u).filter(Boolean);
/** A symbol in front, in any letters: what follows is its method, as in "K ammonium nitrate". */
function symbolFirst(text: string): string | null {
  const [first = '', second = ''] = tokensOf(text);
  const symbol = SYMBOLS.find((s) => s.toLowerCase() === first.toLowerCase());
  // N-NO3, S-SO4 and N min say more than their first letter.
  return symbol === undefined ||
    (['N', 'S'].includes(symbol) && /^(no3|nh4|so4|min|org|nitr|ammon|kjel)/iu.test(second))
    ? null
    : symbol.toLowerCase();
}
/** A symbol in its own letters anywhere. */
const symbolIn = (text: string): string | null =>
  SYMBOLS.find((s) => tokensOf(text).includes(s))?.toLowerCase() ?? null;
/** Oxides say form and element wherever they stand. */
const OXIDES = SPELT.filter(
  ([, , form]) => form !== null && /^(p2o5|k2o|mgo|cao|na2o)$/u.test(form),
);
/** Of what is spelt out, what stands first. */
function speltIn(text: string): (typeof SPELT)[number] | undefined {
  const found = SPELT.map((entry) => ({ entry, at: entry[0].exec(text)?.index ?? -1 }))
    .filter((x) => x.at >= 0)
    .sort((a, b) => a.at - b.at)
    .map((x) => x.entry);
  const [first] = found;
  // "Nitrate (NO3)": a word that leaves the form open, and the formula that says it.
  return first?.[2] === null
    ? (found.find(([, quantity, form]) => quantity === first[1] && form !== null) ?? first)
    : first;
}

/** A ratio of two elements, as K/Ca or (K+Mg)/Ca. */
const RATIO =
  /^\(?\s?[A-Z][a-z]?(\s?\+\s?[A-Z][a-z]?)*\s?\)?\s?[/:]\s?\(?[A-Z][a-z]?(\s?\+\s?[A-Z][a-z]?)*\)?$/u;

function measuredIn(text: string): Measured | null {
  const { unit, rest } = unitIn(text);
  const whole = folded(rest);
  const plain = speltIn(whole);
  const { basis, rest: words } = basisIn(rest);
  // Dry matter is a quantity before it is a basis.
  if (plain && ['dry_matter', 'moisture', 'organic_matter'].includes(plain[1]))
    return {
      quantity: plain[1],
      form: plain[2],
      unit,
      basis: plain[1] === 'organic_matter' ? basis : null,
      words: whole,
    };
  const told = folded(words);
  const first = symbolFirst(words);
  const oxide = OXIDES.find(([word]) => word.test(told));
  const spelt = oxide ?? (first === null ? (speltIn(told) ?? plain) : undefined);
  const symbol = spelt ? null : (first ?? symbolIn(words));
  return spelt
    ? { quantity: spelt[1], form: spelt[2], unit, basis, words: told }
    : symbol
      ? { quantity: symbol, form: symbol, unit, basis, words: told }
      : null;
}

/**
 * Reads a heading.
 *
 * @example readHeading('P target (mg/kg)').kind // 'not_result'
 */
export function readHeading(written: string): Heading {
  // "mg P2O5/100 g" is P2O5 in mg/100 g.
  const text = written.replace(/\b(mg|g|kg)\s+([A-Z][A-Za-z0-9-]{0,5})\s?\/\s?/gu, '$2 $1/');
  const t = folded(text)
    .replace(/[:*]+$/u, '')
    .trim();
  if (t === '' || t.length > 120) return { kind: 'unknown' };
  const long = LONG.find(([word]) => word.test(t));
  if (long) return { kind: 'long', part: long[1] };
  const bare = folded(unitIn(text).rest)
    .replaceAll(/[()[\]:,]/gu, ' ')
    .replaceAll(/\s+/gu, ' ')
    .trim();
  const about = ABOUTS.find(([word]) => word.test(t) || word.test(bare));
  if (/field capacity|feldkapazitat/u.test(t))
    return { kind: 'not_result', reason: 'not a result that is brought in' };
  const said = t.replaceAll(/\bas (received|sampled|is)\b/gu, ' ');
  const notResult = NOT_RESULTS.find(([word]) => word.test(said));
  if (about && !(notResult && about[1] === 'date'))
    return { kind: 'about', about: about[1], unit: unitIn(text).unit, rank: about[2] };
  if (RATIO.test(text.trim()) && !/^c ?[/:] ?n$/u.test(t))
    return { kind: 'not_result', reason: 'a ratio, worked out of others' };
  const measured = measuredIn(text);
  // "C/N ratio" is a result; "K target" is none.
  if (measured?.quantity === 'c_to_n') return { kind: 'measured', measured };
  if (notResult) return { kind: 'not_result', reason: notResult[1] };
  return measured ? { kind: 'measured', measured } : { kind: 'unknown' };
}

import { folded } from './headings';

// Crops, plant parts and stages in the words of several languages, told in one.

const CROPS: readonly (readonly [RegExp, string])[] = [
  [
    /winter ?weizen|winter wheat|ble (tendre )?d'hiver|trigo de invierno|wintertarwe/u,
    'winter wheat',
  ],
  [/sommer ?weizen|spring wheat|ble de printemps/u, 'spring wheat'],
  [/winter ?gerste|winter barley|orge d'hiver|escourgeon/u, 'winter barley'],
  [/sommer ?gerste|spring barley|orge de printemps|zomergerst/u, 'spring barley'],
  [/winter ?roggen|winter rye/u, 'winter rye'],
  [/triticale/u, 'triticale'],
  [/winter ?raps|winter (oilseed )?rape|colza d'hiver|koolzaad/u, 'winter oilseed rape'],
  [
    /zucker ?rube|sugar ?beet|betterave (sucriere|a sucre)|remolacha azucarera|suikerbiet/u,
    'sugar beet',
  ],
  [/silo ?mais|silage maize|mais ensilage|maiz forrajero/u, 'silage maize'],
  [/mais\b|maize|\bcorn\b|maiz\b/u, 'maize'],
  [/soja|soy ?bean/u, 'soybean'],
  [/kartoffel|potato(?!.*sweet)|pomme de terre|patata|papa\b|aardappel/u, 'potato'],
  [/tomat/u, 'tomato'],
  [/gurke|cucumber|concombre|pepino/u, 'cucumber'],
  [/paprika|sweet pepper|poivron|pimiento/u, 'sweet pepper'],
  [/erdbeer|strawberr|fraisier|fraise|fresa|aardbei/u, 'strawberry'],
  [/schwarze johannisbeer|blackcurrant|black currant|cassis/u, 'blackcurrant'],
  [/himbeer|raspberr|framboisi|frambuesa/u, 'raspberry'],
  [/heidelbeer|blueberr|myrtill|arandano/u, 'blueberry'],
  [/birne|poirier|\bpoire|\bpear\b|peral|\bpera\b|peer\b/u, 'pear'],
  [/apfel|apple|pommier|\bpomme\b|manzan|appel/u, 'apple'],
  [/kirsche|cherry|cerisier|cerezo/u, 'cherry'],
  [/pfirsich|peach|pecher|melocoton|durazno/u, 'peach'],
  [/pflaume|plum\b|prunier|ciruelo/u, 'plum'],
  [/hasel|hazel|noisetier|avellano/u, 'hazelnut'],
  [/walnuss|walnut|noyer|nogal/u, 'walnut'],
  [/mandel|almond|amandier|almendro/u, 'almond'],
  [/\bolive|olivo|olivier/u, 'olive'],
  [/\brebe|weinrebe|grape|vigne|\bvid\b|vine\b/u, 'grapevine'],
  [/luzerne|lucerne|alfalfa/u, 'lucerne'],
  [/rotklee|red clover|trefle violet/u, 'red clover'],
  [/sonnenblume|sunflower|tournesol|girasol/u, 'sunflower'],
  [/hafer|\boats?\b|avoine|avena/u, 'oat'],
  [/ackerbohne|faba bean|field bean|feverole/u, 'faba bean'],
  [/erbse|\bpeas?\b|\bpois\b|guisante/u, 'pea'],
  [/zwiebel|onion|oignon|cebolla/u, 'onion'],
  [/\blein\b|linseed|\blin\b/u, 'linseed'],
  [/kurbis|pumpkin|squash|courge/u, 'pumpkin'],
];
/** Narrower words stand before those that they hold. */
const PARTS: readonly (readonly [RegExp, string])[] = [
  [
    /petiole sap|blattstielsaft|sap of petiole|savia de peciolo|jus (basal|petiolaire)/u,
    'petiole sap',
  ],
  [/\bsap\b|presssaft|\bsavia\b|\bseve\b/u, 'sap'],
  [/petiole removed|without petiole|ohne (blatt)?stiel|sans petiole/u, 'leaf'],
  [/petiole|blattstiel|peciolo|peziolo|bladsteel/u, 'petiole'],
  [/flag leaf|fahnenblatt|derniere feuille|hoja bandera|vlagblad/u, 'flag leaf'],
  [/ear leaf|kolbenblatt|feuille de l'epi|hoja de la mazorca/u, 'ear leaf'],
  [/whole fruit|ganze frucht|fruit entier|fruto entero/u, 'whole fruit'],
  [/peel|schale|peau|\bpiel\b/u, 'fruit peel'],
  [
    /whole (shoot|plant|top)|ganzpflanze|gesamtpflanze|plante entiere|planta entera|above ?ground|spross|hele plant/u,
    'whole shoot',
  ],
  [/needle|nadel/u, 'needle'],
  [/leaf|leaves|blatt|feuille|hoja|limbe|blad\b|foglia|folha|trifoliate/u, 'leaf'],
  [/\bshoot\b|\btrieb\b|pousse|brote/u, 'shoot'],
  [/fruit|frucht|fruto/u, 'fruit'],
  [/root|wurzel|racine|raiz/u, 'root'],
  [/grain|korn\b|\bseed\b/u, 'grain'],
];
const STAGES: readonly (readonly [RegExp, string])[] = [
  [/silking|narbenfaden|sortie des soies|floraison femelle/u, 'silking'],
  [
    /tuber initiation|inicio de tuberiz|knollenansatz|initiation des tubercules/u,
    'tuber initiation',
  ],
  [/first fruit set|primer cuajado|erster fruchtansatz|premiere nouaison/u, 'first fruit set'],
  [/full (flower|bloom)|vollblute|pleine floraison|plena floracion/u, 'full flower'],
  [/after harvest|nach der ernte|apres recolte|despues de la cosecha/u, 'after harvest'],
];

/** The crop in English where its name is known in another language; else as it was written. */
export const cropNamed = (text: string): string =>
  CROPS.find(([word]) => word.test(folded(text)))?.[1] ?? text.trim().toLowerCase();
/** The plant part by its plain name; else as it was written. */
export const partNamed = (text: string): string =>
  PARTS.find(([word]) => word.test(folded(text)))?.[1] ?? text.trim().toLowerCase();
/** A text that names a part of a plant and is no number or code. */
export const isPartName = (text: string): boolean =>
  !/^[\p{L}]{0,4}[-_ ]?\d/u.test(text) && PARTS.some(([word]) => word.test(folded(text)));
/** The stage: a BBCH number as such, known words in English, else as it was written. */
export function stageNamed(text: string): string {
  const bbch = /\b(?:bbch|ec|dc|gs)\s?(\d{1,2})\b/iu.exec(text) ?? /^(\d{1,2})$/u.exec(text.trim());
  if (bbch) return `BBCH ${bbch[1]}`;
  return STAGES.find(([word]) => word.test(folded(text)))?.[1] ?? text.trim();
}

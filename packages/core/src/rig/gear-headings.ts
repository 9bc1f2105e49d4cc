export const gearFields = [
  'name',
  'type',
  'quantity',
  'unit',
  'place',
  'address',
  'hostName',
  'mac',
  'serial',
  'firmware',
  'note',
] as const;
export type GearField = (typeof gearFields)[number];

const languages = ['en', 'de', 'fr', 'es', 'nl', 'it'] as const;
type Language = (typeof languages)[number];

/** Headings as people write them, plain: without accents, points and strokes. */
const words: Readonly<Record<GearField, Readonly<Record<Language, string>>>> = {
  name: {
    en: 'name|device|device name|unit name|label|item|gear|equipment|description',
    de: 'name|gerat|geratename|bezeichnung|gegenstand|beschreibung',
    fr: 'nom|appareil|equipement|designation|materiel',
    es: 'nombre|equipo|aparato|dispositivo|descripcion',
    nl: 'naam|apparaat|toestel|omschrijving',
    it: 'nome|apparecchio|apparecchiatura|dispositivo|descrizione',
  },
  type: {
    en: 'type|model|kind|device type|what',
    de: 'typ|modell|gerateart|geratetyp|art',
    fr: 'type|modele|genre|type d appareil',
    es: 'tipo|modelo|clase|tipo de equipo',
    nl: 'type|model|soort',
    it: 'tipo|modello|genere',
  },
  quantity: {
    en: 'quantity|qty|count|pcs|pieces|amount|how many',
    de: 'anzahl|menge|stuck|stk|stuckzahl',
    fr: 'quantite|qte|nombre|nbre|nb',
    es: 'cantidad|cant|uds|unidades',
    nl: 'aantal|hoeveelheid|stuks',
    it: 'quantita|qta|pezzi|pz',
  },
  unit: {
    en: 'unit|no|nr|number|unit no|unit number',
    de: 'nummer|nr|geratenummer',
    fr: 'numero|no|n',
    es: 'numero|num|n',
    nl: 'nummer|nr',
    it: 'numero|n|num',
  },
  place: {
    en: 'place|location|position|where|rack|room',
    de: 'ort|platz|standort|raum|position|einbauort',
    fr: 'lieu|emplacement|salle|position',
    es: 'lugar|ubicacion|sala|posicion',
    nl: 'plaats|locatie|ruimte|positie',
    it: 'luogo|posizione|sala|ubicazione',
  },
  address: {
    en: 'address|ip|ip address|ipv4|ipv4 address',
    de: 'adresse|ip|ip adresse',
    fr: 'adresse|ip|adresse ip',
    es: 'direccion|ip|direccion ip',
    nl: 'adres|ip|ip adres',
    it: 'indirizzo|ip|indirizzo ip',
  },
  hostName: {
    en: 'host|host name|hostname|network name|dns name',
    de: 'hostname|rechnername|netzwerkname|host name',
    fr: 'nom d hote|nom reseau|nom de l hote',
    es: 'nombre de host|nombre de red|nombre del equipo',
    nl: 'hostnaam|netwerknaam|host',
    it: 'nome host|nome di rete|hostname',
  },
  mac: {
    en: 'mac|mac address|hardware address|ethernet address|physical address',
    de: 'mac|mac adresse|hardwareadresse|physische adresse',
    fr: 'mac|adresse mac|adresse physique',
    es: 'mac|direccion mac|direccion fisica',
    nl: 'mac|mac adres|fysiek adres',
    it: 'mac|indirizzo mac|indirizzo fisico',
  },
  serial: {
    en: 'serial|serial number|serial no|s n|sn',
    de: 'seriennummer|serien nr|serie|sn|s n',
    fr: 'numero de serie|no de serie|n de serie|serie',
    es: 'numero de serie|num de serie|n de serie|serie',
    nl: 'serienummer|serie nr|serienr',
    it: 'numero di serie|matricola|seriale',
  },
  firmware: {
    en: 'firmware|version|software|fw|firmware version|software version|sw',
    de: 'firmware|version|softwarestand|stand|software',
    fr: 'version|micrologiciel|logiciel|firmware',
    es: 'version|firmware|software',
    nl: 'versie|firmware|softwareversie',
    it: 'versione|firmware|software',
  },
  note: {
    en: 'note|notes|remark|remarks|comment|comments',
    de: 'bemerkung|bemerkungen|notiz|anmerkung|hinweis',
    fr: 'remarque|remarques|note|commentaire',
    es: 'nota|notas|observaciones|comentario',
    nl: 'opmerking|opmerkingen|notitie',
    it: 'nota|osservazioni|commento',
  },
};

const dictionaries = languages.map(
  (language) =>
    new Map(gearFields.flatMap((field) => words[field][language].split('|').map((word) => [word, field] as const))),
);

const plain = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/#/g, ' no ')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/**
 * What the cells of one row name as headings. One word may mean two things (“nombre” is a name in Spanish and a number in
 * French): the language that knows most of the row decides, and what it does not know the others are asked for.
 */
export function headingsIn(row: readonly string[]): (GearField | null)[] {
  const cells = row.map(plain);
  const known = dictionaries.map((dictionary) => cells.filter((cell) => dictionary.has(cell)).length);
  const order = [...dictionaries].sort(
    (a, b) => (known[dictionaries.indexOf(b)] ?? 0) - (known[dictionaries.indexOf(a)] ?? 0),
  );
  return cells.map((cell) => order.map((dictionary) => dictionary.get(cell)).find(Boolean) ?? null);
}

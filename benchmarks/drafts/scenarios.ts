/** Invented trades in four languages, from which the reports of the benchmark are made. */
import type { Chance } from './chance.ts';

export type Language = 'en' | 'de' | 'fr' | 'es';

export interface Measure {
  name: string;
  decimals: number;
  most: number;
}

export interface Scenario {
  language: Language;
  title: string;
  area: string;
  site: string;
  item: string;
  code: string;
  state: string;
  date: string;
  areas: readonly string[];
  sites: readonly string[];
  items: readonly string[];
  states: readonly string[];
  measures: readonly Measure[];
  words: Words;
}

export interface Words {
  total: string;
  subtotal: (of: string) => string;
  grand: string;
  mean: string;
  page: (n: number, of: number) => string;
  carried: string;
  brought: string;
  notes: readonly string[];
  titles: readonly string[];
  quarter: (n: number) => string;
  months: readonly string[];
  plan: string;
  actual: string;
  remarks: readonly string[];
  unit: readonly string[];
}

const MONTHS: Record<Language, string> = {
  en: 'January February March April May June July August September October November December',
  de: 'Januar Februar März April Mai Juni Juli August September Oktober November Dezember',
  fr: 'janvier février mars avril mai juin juillet août septembre octobre novembre décembre',
  es: 'enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre',
};

const WORDS: Record<Language, Omit<Words, 'months'>> = {
  en: {
    total: 'Total',
    subtotal: (of) => `Total ${of}`,
    grand: 'Grand total',
    mean: 'Average',
    page: (n, of) => `Page ${n} of ${of}`,
    carried: 'Carried forward',
    brought: 'Brought forward',
    notes: [
      'Source: returns of the yards',
      'Figures for the last month are provisional.',
      'Rounded to whole units where said.',
    ],
    titles: ['Not for release', 'Printed 03/02/2031', 'As at 31 January 2031', 'Prepared by the returns desk'],
    quarter: (n) => `Q${n}`,
    plan: 'Plan',
    actual: 'Actual',
    remarks: ['counted by hand', 'late return', 'meter replaced', 'two days closed'],
    unit: ['kg', 'hours', 'persons'],
  },
  de: {
    total: 'Summe',
    subtotal: (of) => `Summe ${of}`,
    grand: 'Gesamtsumme',
    mean: 'Durchschnitt',
    page: (n, of) => `Seite ${n} von ${of}`,
    carried: 'Übertrag',
    brought: 'Vortrag',
    notes: ['Quelle: Meldungen der Höfe', 'Werte des letzten Monats vorläufig.', 'Rundungen wie angegeben.'],
    titles: ['Nur für den Dienstgebrauch', 'Gedruckt am 03.02.2031', 'Stand 31.01.2031', 'Erstellt: Meldestelle'],
    quarter: (n) => `${n}. Quartal`,
    plan: 'Plan',
    actual: 'Ist',
    remarks: ['von Hand gezählt', 'verspätete Meldung', 'Zähler getauscht', 'zwei Tage zu'],
    unit: ['kg', 'Stunden', 'Personen'],
  },
  fr: {
    total: 'Total',
    subtotal: (of) => `Sous-total ${of}`,
    grand: 'Total général',
    mean: 'Moyenne',
    page: (n, of) => `Page ${n} sur ${of}`,
    carried: 'À reporter',
    brought: 'Report',
    notes: ['Source : relevés des cours', 'Chiffres provisoires pour le dernier mois.', 'Arrondis selon indication.'],
    titles: ['Document interne', 'Édité le 03/02/2031', 'Situation au 31/01/2031', 'Établi par le bureau des relevés'],
    quarter: (n) => `T${n}`,
    plan: 'Prévu',
    actual: 'Réalisé',
    remarks: ['compté à la main', 'relevé tardif', 'compteur changé', 'fermé deux jours'],
    unit: ['kg', 'heures', 'personnes'],
  },
  es: {
    total: 'Total',
    subtotal: (of) => `Total ${of}`,
    grand: 'Total general',
    mean: 'Promedio',
    page: (n, of) => `Página ${n} de ${of}`,
    carried: 'Suma y sigue',
    brought: 'Suma anterior',
    notes: ['Fuente: partes de los patios', 'Cifras provisionales del último mes.', 'Redondeos según se indica.'],
    titles: ['Uso interno', 'Impreso el 03/02/2031', 'Situación a 31/01/2031', 'Elaborado por la oficina de partes'],
    quarter: (n) => `${n}.º trimestre`,
    plan: 'Previsto',
    actual: 'Real',
    remarks: ['contado a mano', 'parte tardío', 'contador cambiado', 'cerrado dos días'],
    unit: ['kg', 'horas', 'personas'],
  },
};

interface Trade {
  title: Record<Language, string>;
  nouns: Record<Language, [area: string, site: string, item: string, code: string, state: string, date: string]>;
  items: Record<Language, string>;
  measures: Record<Language, readonly [name: string, decimals: number, most: number][]>;
}

const TRADES: readonly Trade[] = [
  {
    title: {
      en: 'Kiln yard firings',
      de: 'Brände der Ziegeleien',
      fr: 'Cuissons des briqueteries',
      es: 'Hornadas de las tejerías',
    },
    nouns: {
      en: ['District', 'Yard', 'Ware', 'Firing', 'Outcome', 'Fired on'],
      de: ['Kreis', 'Ziegelei', 'Ware', 'Brand', 'Befund', 'Gebrannt'],
      fr: ['Canton', 'Briqueterie', 'Pièce', 'Cuisson', 'Constat', 'Cuit le'],
      es: ['Partido', 'Tejería', 'Pieza', 'Hornada', 'Resultado', 'Cocido'],
    },
    items: {
      en: 'Brick,Ridge tile,Paver,Flue liner,Coping,Chimney pot,Floor tile,Drain pipe',
      de: 'Ziegel,Firststein,Klinker,Rohr,Platte,Haube,Bodenstein,Rinne',
      fr: 'Brique,Faîtière,Pavé,Conduit,Chaperon,Mitron,Carreau,Drain',
      es: 'Ladrillo,Caballete,Adoquín,Conducto,Albardilla,Remate,Baldosa,Caño',
    },
    measures: {
      en: [
        ['Pieces', 0, 20000],
        ['Clay used', 1, 900],
        ['Fuel cost', 2, 9000],
        ['Breakage', 0, 300],
      ],
      de: [
        ['Stück', 0, 20000],
        ['Ton', 1, 900],
        ['Brennkosten', 2, 9000],
        ['Bruch', 0, 300],
      ],
      fr: [
        ['Pièces', 0, 20000],
        ['Argile', 1, 900],
        ['Combustible', 2, 9000],
        ['Casse', 0, 300],
      ],
      es: [
        ['Piezas', 0, 20000],
        ['Arcilla', 1, 900],
        ['Combustible', 2, 9000],
        ['Roturas', 0, 300],
      ],
    },
  },
  {
    title: {
      en: 'Library loans',
      de: 'Ausleihen der Büchereien',
      fr: 'Prêts des bibliothèques',
      es: 'Préstamos de las bibliotecas',
    },
    nouns: {
      en: ['Borough', 'Branch', 'Shelf', 'Card', 'Reader', 'Day'],
      de: ['Stadtteil', 'Bücherei', 'Regal', 'Karte', 'Leserkreis', 'Tag'],
      fr: ['Quartier', 'Annexe', 'Rayon', 'Carte', 'Public', 'Jour'],
      es: ['Barrio', 'Sucursal', 'Estante', 'Tarjeta', 'Público', 'Día'],
    },
    items: {
      en: 'Novels,Poetry,Maps,Scores,Travel,History,Comics,Cookery',
      de: 'Romane,Lyrik,Karten,Noten,Reisen,Geschichte,Bildbände,Kochbücher',
      fr: 'Romans,Poésie,Cartes,Partitions,Voyages,Histoire,Albums,Cuisine',
      es: 'Novelas,Poesía,Mapas,Partituras,Viajes,Historia,Cómics,Cocina',
    },
    measures: {
      en: [
        ['Loans', 0, 4000],
        ['Fines', 2, 300],
        ['Renewals', 0, 900],
        ['Desk hours', 1, 60],
      ],
      de: [
        ['Ausleihen', 0, 4000],
        ['Gebühren', 2, 300],
        ['Verlängerungen', 0, 900],
        ['Dienststunden', 1, 60],
      ],
      fr: [
        ['Prêts', 0, 4000],
        ['Amendes', 2, 300],
        ['Prolongations', 0, 900],
        ['Permanence', 1, 60],
      ],
      es: [
        ['Préstamos', 0, 4000],
        ['Multas', 2, 300],
        ['Renovaciones', 0, 900],
        ['Horas de mostrador', 1, 60],
      ],
    },
  },
  {
    title: { en: 'Orchard harvest', de: 'Ernte der Obsthöfe', fr: 'Récolte des vergers', es: 'Cosecha de los huertos' },
    nouns: {
      en: ['Valley', 'Orchard', 'Fruit', 'Lot', 'Grade', 'Picked'],
      de: ['Tal', 'Hof', 'Obst', 'Partie', 'Klasse', 'Gepflückt'],
      fr: ['Vallée', 'Verger', 'Fruit', 'Lot', 'Calibre', 'Cueilli'],
      es: ['Valle', 'Huerto', 'Fruta', 'Lote', 'Calidad', 'Recogido'],
    },
    items: {
      en: 'Apple,Pear,Plum,Cherry,Quince,Medlar,Walnut,Damson',
      de: 'Apfel,Birne,Pflaume,Kirsche,Quitte,Mispel,Walnuss,Zwetschge',
      fr: 'Pomme,Poire,Prune,Cerise,Coing,Nèfle,Noix,Quetsche',
      es: 'Manzana,Pera,Ciruela,Cereza,Membrillo,Níspero,Nuez,Endrina',
    },
    measures: {
      en: [
        ['Crates', 0, 700],
        ['Weight', 1, 12000],
        ['Wages', 2, 5000],
        ['Pickers', 0, 40],
      ],
      de: [
        ['Kisten', 0, 700],
        ['Gewicht', 1, 12000],
        ['Löhne', 2, 5000],
        ['Pflücker', 0, 40],
      ],
      fr: [
        ['Caisses', 0, 700],
        ['Poids', 1, 12000],
        ['Salaires', 2, 5000],
        ['Cueilleurs', 0, 40],
      ],
      es: [
        ['Cajas', 0, 700],
        ['Peso', 1, 12000],
        ['Jornales', 2, 5000],
        ['Peones', 0, 40],
      ],
    },
  },
];

const FRONTS: Record<Language, string> = {
  en: 'Brack,Holm,Tarn,Wither,Sker,Oaken,Marl,Penny,Cold,Rush,Hazel,Fen',
  de: 'Barn,Holz,Tann,Weid,Schier,Eich,Mergel,Pfenn,Kalt,Ried,Hasel,Moor',
  fr: 'Bras,Houl,Tarn,Vithe,Esque,Chên,Marl,Pen,Froid,Jonc,Coudr,Fagn',
  es: 'Brac,Olm,Tarn,Vid,Esquer,Encin,Marg,Peñ,Frí,Junc,Avell,Turb',
};
const BACKS: Record<Language, string> = {
  en: 'wick,ford,by,combe,stead,ley,mere,thorpe',
  de: 'hausen,furt,dorf,tal,stedt,au,see,rode',
  fr: 'ville,court,ières,val,mont,ey,lac,bois',
  es: 'illa,vado,eda,val,monte,ar,lago,osa',
};
const AREAS: Record<Language, string> = {
  en: 'North,South,East,West,Coast,Upland,Marsh,Centre',
  de: 'Nord,Süd,Ost,West,Küste,Oberland,Marsch,Mitte',
  fr: 'Nord,Sud,Est,Ouest,Littoral,Plateau,Marais,Centre',
  es: 'Norte,Sur,Este,Oeste,Costa,Sierra,Marisma,Centro',
};
const STATES: Record<Language, string> = {
  en: 'good,fair,poor',
  de: 'gut,mittel,schlecht',
  fr: 'bon,moyen,mauvais',
  es: 'bueno,regular,malo',
};

export const LANGUAGES: readonly Language[] = ['en', 'de', 'fr', 'es'];

export function makeScenario(chance: Chance, language: Language): Scenario {
  const trade = chance.pick(TRADES);
  const [area, site, item, code, state, date] = trade.nouns[language];
  const fronts = FRONTS[language].split(',');
  const backs = BACKS[language].split(',');
  const sites = new Set<string>();
  while (sites.size < 60) sites.add(chance.pick(fronts) + chance.pick(backs));
  const words = WORDS[language];
  return {
    language,
    title: trade.title[language],
    area,
    site,
    item,
    code,
    state,
    date,
    areas: AREAS[language].split(','),
    sites: [...sites],
    items: trade.items[language].split(','),
    states: STATES[language].split(','),
    measures: trade.measures[language].map(([name, decimals, most]) => ({ name, decimals, most })),
    words: { ...words, months: MONTHS[language].split(' ') },
  };
}

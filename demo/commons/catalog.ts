/** What *Tidewrack Commons* shows. The site, its people and its licences are invented. */
export interface Work {
  readonly id: string;
  /** Of the demo's pictures. */
  readonly file: string;
  readonly title: string;
  readonly author: string;
  readonly licence: Licence;
  readonly gallery: Gallery;
  readonly words: readonly string[];
  /** Every size on the page, the largest behind a link only, or a small one with a price. */
  readonly offer: 'sizes' | 'linked' | 'paid';
}

export const LICENCES = {
  open: { name: 'Tidewrack Open Licence', says: 'Use it, change it, name the maker.' },
  share: { name: 'Marsh Share Licence', says: 'Use it, name the maker, pass on what you make the same way.' },
  look: { name: 'Look-Only Licence', says: 'Look at it while you work; it may not go into the work.' },
  print: { name: "Ferryfolk's Print Licence", says: 'Nine shells for one printed edition.' },
} as const;
export type Licence = keyof typeof LICENCES;

export const GALLERIES = {
  ferries: 'Ferries and their gear',
  marsh: 'Water, reed and sky',
  makers: 'Things that makers keep',
} as const;
export type Gallery = keyof typeof GALLERIES;

type Row = readonly [
  id: string,
  file: string,
  title: string,
  author: string,
  licence: Licence,
  gallery: Gallery,
  words: string,
  offer?: Work['offer'],
];

const ROWS: readonly Row[] = [
  [
    'ferry-low-sun',
    'ferry-045-side.jpg',
    'Chain ferry, low sun',
    'Ines Halloway',
    'open',
    'ferries',
    'ferry hull evening',
  ],
  [
    'ferry-bow',
    'ferry-090-soft.jpg',
    'Chain ferry from the bow',
    'Ines Halloway',
    'open',
    'ferries',
    'ferry bow overcast',
  ],
  [
    'ferry-stern',
    'ferry-270-side.jpg',
    'Chain ferry from the stern',
    'Ines Halloway',
    'share',
    'ferries',
    'ferry stern',
    'linked',
  ],
  [
    'wheel',
    'chain-wheel-edge.jpg',
    'The wheel along its axle',
    'Tobit Marrow',
    'share',
    'ferries',
    'ferry wheel chain rust iron',
  ],
  [
    'hinge',
    'bow-ramp-hinge.jpg',
    'Where the ramp hinges',
    'Tobit Marrow',
    'look',
    'ferries',
    'ferry ramp chain',
  ],
  [
    'fender',
    'hull-rust-fender.jpg',
    'Rust and a fender',
    'Tobit Marrow',
    'open',
    'ferries',
    'ferry hull rust',
    'linked',
  ],
  [
    'blueprint',
    'ferry-side-elevation.png',
    'Side elevation, redrawn',
    'Sallow Reach Boatyard',
    'open',
    'ferries',
    'ferry plan drawing',
  ],
  ['dawn', 'sky-0510-dawn.webp', 'Ten past five', 'Maud Ketterick', 'share', 'marsh', 'sky water dawn'],
  ['noon', 'sky-1240-noon.webp', 'Twenty to one', 'Maud Ketterick', 'share', 'marsh', 'sky water noon cloud'],
  [
    'rain',
    'sky-1730-rain-coming.webp',
    'Rain coming',
    'Maud Ketterick',
    'print',
    'marsh',
    'sky water rain cloud',
    'paid',
  ],
  [
    'channel',
    'reed-channel-noon.jpg',
    'Skiff in the reed channel',
    'Ansel Crake',
    'open',
    'marsh',
    'reed channel boat',
  ],
  [
    'channel-fog',
    'reed-channel-fog.jpg',
    'Withies in fog',
    'Ansel Crake',
    'print',
    'marsh',
    'reed channel fog',
    'paid',
  ],
  [
    'slip',
    'winch-house-gate.jpg',
    'The gate at Low Sallow',
    'Ansel Crake',
    'look',
    'marsh',
    'winch house brick slip',
  ],
  [
    'mist',
    'reed-channel-dawn.jpg',
    'Mist on the channel',
    'Ansel Crake',
    'open',
    'marsh',
    'reed channel dawn mist',
    'linked',
  ],
  [
    'lantern',
    'lantern-030.jpg',
    'Storm lantern on the bench',
    'Wren Oskin',
    'open',
    'makers',
    'lantern brass glass',
  ],
  [
    'lantern-lit',
    'storm-lantern-glass.jpg',
    'Storm lantern, lit',
    'Wren Oskin',
    'print',
    'makers',
    'lantern flame night ferry',
    'paid',
  ],
  [
    'head',
    'head-quarter-raking.jpg',
    'Study head, light from above',
    'Wren Oskin',
    'look',
    'makers',
    'head face planes',
  ],
  ['figure', 'mannequin-02.jpg', 'Figure hauling', 'Wren Oskin', 'open', 'makers', 'figure pose mannequin'],
  ['rope', 'surface-rope.webp', 'Manila, coiled', 'Tobit Marrow', 'open', 'makers', 'rope surface'],
  [
    'oilskin',
    'surface-oilskin.webp',
    'Oilskin on its hook',
    'Tobit Marrow',
    'share',
    'makers',
    'oilskin cloth surface',
  ],
];

export const WORKS: readonly Work[] = ROWS.map(
  ([id, file, title, author, licence, gallery, words, offer = 'sizes']) => ({
    ...{ id, file, title, author, licence, gallery, offer },
    words: words.split(' '),
  }),
);

export const workNamed = (id: string): Work | undefined => WORKS.find((work) => work.id === id);

/** Works that some word of a question fits; every work without a question. */
export function found(question: string): readonly Work[] {
  const asked = question.toLowerCase().split(/\W+/).filter(Boolean);
  if (asked.length === 0) return WORKS;
  return WORKS.filter(({ title, author, words }) => {
    const text = `${title} ${author} ${words.join(' ')}`.toLowerCase();
    return asked.some((word) => text.includes(word));
  });
}

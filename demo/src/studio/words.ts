// What a watched week of writing is made of: surtitles, programme books and panels for the studio's clients. Texts have no folder to
// speak of, dictionaries and searches serve every job, and half of what is in front is looked up.

export interface WordsJob {
  /** The project's name, or what it is instead. */
  label: string;
  weight: number;
  /** Where its texts lie; they lie under Documents where this is empty. */
  folder: string;
  /** Texts as their windows name them. */
  texts: readonly string[];
  people: readonly string[];
  subjects: readonly string[];
  /** What is looked up for it, and the pages where it is read. */
  sought: readonly string[];
  pages: readonly (readonly [address: string, title: string])[];
  calls: readonly string[];
}

export const wordsJobs: readonly WordsJob[] = [
  {
    label: 'Winter season rig',
    weight: 5,
    folder: '',
    texts: ['Winter season surtitles act 1', 'Winter season surtitles act 2', 'Quayside programme book'],
    people: ['maud@quayside-playhouse.example', 'box@quayside-playhouse.example'],
    subjects: ['Surtitles, second act', 'Programme book proofs', 'Cast list'],
    sought: ['windlass', 'to heave to', 'fo’c’sle', 'lamplighter'],
    pages: [['https://quayside-playhouse.example/cast', 'The company - Quayside Playhouse']],
    calls: ['01632 960 141'],
  },
  {
    label: 'Spring double bill',
    weight: 5,
    folder: '/home/asha/double-bill',
    texts: ['Double bill evening sheet', 'Second piece notes', 'Interview with the dancers'],
    people: ['jory@bramble-street.example'],
    subjects: ['Evening sheet', 'Captions for the second piece'],
    sought: ['plié', 'ostinato', 'counterpoint'],
    pages: [['https://bramble-street.example/pieces', 'Pieces - Bramble Street Dance']],
    calls: ['01632 960 163'],
  },
  {
    label: 'Museum gallery 3',
    weight: 6,
    folder: '/home/asha/fernhill',
    texts: ['Gallery 3 wall texts', 'Case 7 labels', 'Gallery 3 wall texts German', 'Audio guide stops'],
    people: ['sabine@fernhill-museum.example', 'labels@fernhill-museum.example'],
    subjects: ['Wall texts', 'Case 7, second reading', 'German labels'],
    sought: ['quern', 'flail', 'dibber', 'winnowing fan', 'to thatch'],
    pages: [
      ['https://fernhill-museum.example/collection/7', 'Case 7 - Fernhill Folk Museum'],
      ['https://farm-words.example/tools', 'Tools of the field'],
    ],
    calls: ['01632 960 187'],
  },
  {
    label: 'Footbridge lighting',
    weight: 3,
    folder: '',
    texts: ['Footbridge leaflet', 'Answers for the council', 'OTC-22 public notice'],
    people: ['works@otterbourne-council.example'],
    subjects: ['Leaflet', 'Public notice'],
    sought: ['parapet', 'abutment', 'bylaw'],
    pages: [['https://otterbourne-council.example/notices', 'Public notices - Otterbourne Town Council']],
    calls: [],
  },
  {
    label: 'Salon windows',
    weight: 3,
    folder: '',
    texts: ['Textes vitrines', 'Salon invitation'],
    people: ['odile@maison-clairval.example'],
    subjects: ['Textes des vitrines', 'Invitation'],
    sought: ['vitrine', 'écrin', 'lustre'],
    pages: [['https://maison-clairval.example/maison', 'La maison - Maison Clairval']],
    calls: [],
  },
  {
    label: 'Studio',
    weight: 1.5,
    folder: '',
    texts: ['Saltmere newsletter', 'Diary'],
    people: ['imogen@saltmere-lighting.example', 'teodor@saltmere-lighting.example'],
    subjects: ['Newsletter', 'Holidays'],
    sought: [],
    pages: [],
    calls: [],
  },
];

export const ownTime: WordsJob = {
  label: 'private',
  weight: 0,
  folder: '',
  texts: [],
  people: ['pim@post.example'],
  subjects: ['Saturday'],
  sought: [],
  pages: [
    ['https://town-news.example', 'Saltmere Town News'],
    ['https://knitting-forum.example/cables', 'Cables for beginners - Knitting Forum'],
    ['https://saltmere-swimming.example/hours', 'Opening hours - Saltmere Baths'],
  ],
  calls: [],
};

/** Where words are looked up, whatever the job. */
export const wordBooks: readonly (readonly [address: string, name: string])[] = [
  ['https://word-book.example/', 'Word Book'],
  ['https://thesaurus.example/', 'Thesaurus'],
  ['https://deux-langues.example/', 'Deux langues'],
  ['https://search.example/?q=', 'Search'],
];

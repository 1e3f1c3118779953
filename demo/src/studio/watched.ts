// What a watched week is made of: for each job its documents, mails, pages and people. Several jobs share words, sites and programs,
// as they do in life; documents are renamed as they go on.

export interface WatchedJob {
  /** The project's name, or what it is instead. */
  label: string;
  weight: number;
  folder: string;
  documents: readonly string[];
  people: readonly string[];
  threads: readonly string[];
  pages: readonly (readonly [address: string, title: string])[];
  calls: readonly string[];
  meetings: readonly string[];
}

const HIRE = 'https://hire-stock.example';
const ASHA = 'asha@saltmere-lighting.example';
const TEODOR = 'teodor@saltmere-lighting.example';

export const watchedJobs: readonly WatchedJob[] = [
  {
    label: 'Winter season rig',
    weight: 6,
    folder: '/work/quayside/winter-season',
    documents: ['plot-sheet-4.lgp', 'hang-plan.lgp', 'focus-notes.md', 'cue-list.csv'],
    people: ['maud@quayside-playhouse.example', ASHA],
    threads: ['Follow-spot hire', 'Get-in times', 'Cue list, act two', 'Dimmer room keys'],
    pages: [
      [`${HIRE}/follow-spots`, 'Follow-spots - Hire Stock'],
      ['https://quayside-playhouse.example/season', 'The winter season - Quayside Playhouse'],
    ],
    calls: ['01632 960 141', '01632 960 140'],
    meetings: ['Production meeting, Quayside'],
  },
  {
    label: 'Spring double bill',
    weight: 5,
    folder: '/work/bramble/double-bill',
    documents: ['second-piece-plot.lgp', 'cue-list.csv', 'colour-notes.md', 'rehearsal-states.lgp'],
    people: ['jory@bramble-street.example', ASHA],
    threads: ['Cue list for the second piece', 'Paper tech', 'Floor colours'],
    pages: [
      [`${HIRE}/colour`, 'Colour - Hire Stock'],
      ['https://bramble-street.example/rehearsals', 'Rehearsal diary - Bramble Street Dance'],
    ],
    calls: ['01632 960 163'],
    meetings: ['Paper tech, Bramble Street', 'Second piece, run-through'],
  },
  {
    label: 'Museum gallery 3',
    weight: 6,
    folder: '/work/fernhill/gallery-3',
    documents: ['gallery-3-lux-study.xlsx', 'case-lighting.lgp', 'track-layout.lgp', 'conservation-notes.md'],
    people: ['sabine@fernhill-museum.example', TEODOR],
    threads: ['Lux levels in case 7', 'Track layout', 'Opening date'],
    pages: [
      ['https://daylight-tables.example/factors', 'Daylight factors'],
      [`${HIRE}/track`, 'Track and fittings - Hire Stock'],
    ],
    calls: ['01632 960 187'],
    meetings: ['Gallery 3, site walk'],
  },
  {
    label: 'Footbridge lighting',
    weight: 4,
    folder: '/work/otterbourne/bridge',
    documents: ['bridge-elevations.lgp', 'handrail-lux-study.xlsx', 'night-survey.md'],
    people: ['works@otterbourne-council.example', TEODOR],
    threads: ['Planning conditions', 'Handrail lux study', 'Night survey'],
    pages: [
      ['https://otterbourne-council.example/planning/footbridge', 'Planning file - Otterbourne Town Council'],
      ['https://daylight-tables.example/night', 'Night-time levels'],
    ],
    calls: ['01632 960 119'],
    meetings: ['Footbridge, with the council'],
  },
  {
    label: 'Salon windows',
    weight: 2,
    folder: '/work/clairval/salon',
    documents: ['vitrine-plan.lgp', 'devis-lumiere.md'],
    people: ['odile@maison-clairval.example'],
    threads: ['Vitrines, version 2', 'Couleur du salon'],
    pages: [['https://maison-clairval.example/salon', 'Le salon - Maison Clairval']],
    calls: [],
    meetings: [],
  },
  {
    label: 'Studio',
    weight: 2,
    folder: '/work/studio/accounts',
    documents: ['year-plan.xlsx', 'insurance-notes.md'],
    people: [ASHA, TEODOR],
    threads: ['Van insurance', 'Holiday dates', 'Next year'],
    pages: [[`${HIRE}/account`, 'Your account - Hire Stock']],
    calls: [],
    meetings: ['Studio Monday'],
  },
];

export const privateMoments: WatchedJob = {
  label: 'private',
  weight: 0,
  folder: '',
  documents: [],
  people: ['nan.vale@post.example'],
  threads: ['Sunday lunch'],
  pages: [
    ['https://saltmere-trains.example/times', 'Trains from Saltmere'],
    ['https://garden-forum.example/dahlias', 'Dahlias in pots - Garden Forum'],
    ['https://town-news.example', 'Saltmere Town News'],
  ],
  calls: ['01632 960 009'],
  meetings: [],
};

/** Sites that Imogen wants to have kept from all lists. */
export const privateSites: readonly string[] = ['garden-forum.example', 'saltmere-trains.example'];

/** Looked at for every job: they tell nothing. */
export const sharedPages = [
  ['https://search.example/?q=', 'Search'],
  ['https://maps.example/saltmere', 'Saltmere - Maps'],
  [`${HIRE}/stock`, 'Stock list - Hire Stock'],
] as const;

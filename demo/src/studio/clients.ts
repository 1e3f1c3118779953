import type { Buyer, Condensing, ProjectColour, ProjectKind } from '@half-penny/core/model';
import type { ServiceKey, StageName, TaxKey } from './basics';

export interface DemoTask {
  name: string;
  /** Hours that it is thought to take. */
  estimate: number | null;
  stage?: StageName;
}

export interface DemoProject {
  name: string;
  jobNumber: string;
  colour: ProjectColour;
  weight: number;
  tags?: readonly string[];
  kind?: ProjectKind;
  /** Pounds agreed for the whole. */
  fixedPrice?: number;
  stage?: StageName;
  /** Projects that are part of it. */
  parts?: DemoProject[];
  tasks?: readonly DemoTask[];
  /** Days by which something is to be reached, counted from today. */
  milestones?: readonly { name: string; inDays: number }[];
  /** In hours, in whole pounds, or as much as leaves this share of it used when the demo is opened. */
  budget?: { hours?: number; money?: number; used?: number; noticeAt?: number };
  notes: { service: ServiceKey; notes: readonly string[] }[];
}

export interface DemoClient {
  name: string;
  address: string;
  email: string;
  taxNumber: string;
  /** What the bookkeeping calls it. */
  code: string;
  currency: string;
  tax: TaxKey;
  termsDays: number | null;
  taxPlace: string;
  asBuyer?: Buyer;
  purchaseOrder?: 'never' | 'sometimes' | 'always';
  condense?: Condensing;
  openBook?: boolean;
  contacts: readonly {
    name: string;
    role: string;
    email: string;
    telephone: string;
    /** Names of projects. */
    answersFor?: readonly string[];
  }[];
  contract?: { name: string; terms: string; cap: number; termsDays: number };
  projects: DemoProject[];
}

export const clients: Record<string, DemoClient> = {
  quayside: {
    name: 'Quayside Playhouse',
    address: '1 Harbour Steps\nSaltmere\nSM1 1AA',
    email: 'production@quayside-playhouse.example',
    taxNumber: '',
    code: 'C01',
    currency: 'GBP',
    tax: 'standard',
    termsDays: null,
    taxPlace: 'GB',
    purchaseOrder: 'sometimes',
    contacts: [
      {
        name: 'Maud Ferrier',
        role: 'Production manager',
        email: 'maud@quayside-playhouse.example',
        telephone: '01632 960 141',
        answersFor: ['Winter season rig'],
      },
      { name: 'Stage door', role: '', email: 'door@quayside-playhouse.example', telephone: '01632 960 140' },
    ],
    projects: [
      {
        name: 'Winter season rig',
        jobNumber: '2604',
        tags: ['stage'],
        colour: 'moss',
        weight: 22,
        stage: 'On site',
        tasks: [
          { name: 'Plot and drawings', estimate: 160 },
          { name: 'Call-outs', estimate: null },
        ],
        milestones: [
          { name: 'First night', inDays: 12 },
          { name: 'Get-out', inDays: 61 },
        ],
        budget: { hours: 560, money: 48_000 },
        parts: [
          {
            name: 'Studio theatre',
            jobNumber: '',
            colour: 'moss',
            weight: 4,
            stage: 'In hand',
            notes: [
              { service: 'design', notes: ['Studio rig, plan and section', 'Booth layout'] },
              { service: 'site', notes: ['Studio focus'] },
            ],
          },
        ],
        notes: [
          {
            service: 'design',
            notes: ['Plot sheet 4', 'Colour study, act two', 'Rig plan, front of house', 'Cue synopsis with director'],
          },
          { service: 'plans', notes: ['Section through bar 6', 'Hanging schedule', 'Circuit sheet, dimmer room'] },
          {
            service: 'programming',
            notes: ['Cue list clean-up', 'Storm sequence, cues 41 to 58', 'Backup show file and notes'],
          },
          { service: 'site', notes: ['Focus, stage left ladders', 'Rig check before first night'] },
        ],
      },
      {
        name: 'Foyer refresh',
        jobNumber: '2611',
        colour: 'fern',
        weight: 7,
        stage: 'In hand',
        notes: [
          { service: 'design', notes: ['Pendant options for the bar', 'Daylight readings, foyer'] },
          { service: 'meeting', notes: ['Walk-round with house manager'] },
        ],
      },
    ],
  },
  bramble: {
    name: 'Bramble Street Dance',
    address: 'The Old Laundry\n9 Bramble Street\nSaltmere\nSM2 7HL',
    email: 'office@bramble-street.example',
    taxNumber: '',
    code: 'C02',
    currency: 'GBP',
    tax: 'standard',
    termsDays: 14,
    taxPlace: 'GB',
    contacts: [
      { name: 'Jory Penhale', role: 'Producer', email: 'jory@bramble-street.example', telephone: '01632 960 163' },
    ],
    projects: [
      {
        name: 'Spring double bill',
        jobNumber: '2607',
        tags: ['stage'],
        colour: 'brick',
        weight: 11,
        kind: 'fixed price',
        fixedPrice: 18_500,
        stage: 'In hand',
        tasks: [
          { name: 'First piece', estimate: 90, stage: 'Handed over' },
          { name: 'Second piece', estimate: 110, stage: 'In hand' },
        ],
        milestones: [
          { name: 'Plans approved', inDays: -40 },
          { name: 'Technical week', inDays: 33 },
        ],
        budget: { used: 0.93, noticeAt: 70 },
        parts: [
          {
            name: 'Extras',
            jobNumber: '2607-E',
            colour: 'brick',
            weight: 5,
            kind: 'hourly',
            stage: 'In hand',
            notes: [
              { service: 'programming', notes: ['Filmed run, extra cues', 'Second venue, patch and presets'] },
              { service: 'design', notes: ['Side light for the added duet'] },
            ],
          },
        ],
        notes: [
          { service: 'design', notes: ['Side light tests', 'Look book for the second piece', 'Follow-spot positions'] },
          { service: 'programming', notes: ['Paper tech', 'Timecode for the opening', 'Cue list with choreographer'] },
          { service: 'meeting', notes: ['Production meeting', 'Run-through and notes'] },
        ],
      },
    ],
  },
  fernhill: {
    name: 'Fernhill Folk Museum',
    address: 'Fernhill House\nLower Fernhill\nFH8 3DN',
    email: 'exhibitions@fernhill-museum.example',
    taxNumber: '',
    code: 'C03',
    currency: 'GBP',
    tax: 'standard',
    termsDays: null,
    taxPlace: 'GB',
    condense: 'cost code',
    openBook: true,
    contacts: [
      {
        name: 'Sabine Orme',
        role: 'Head of exhibitions',
        email: 'sabine@fernhill-museum.example',
        telephone: '01632 960 187',
      },
    ],
    projects: [
      {
        name: 'Museum gallery 3',
        jobNumber: '2602',
        colour: 'plum',
        weight: 20,
        kind: 'cost-plus',
        stage: 'In hand',
        tasks: [
          { name: 'Case lighting', estimate: 120 },
          { name: 'Track and ceiling', estimate: 80 },
        ],
        budget: { money: 42_000 },
        notes: [
          {
            service: 'design',
            notes: ['Gallery 3 lux study', 'Case lighting, textiles', 'Conservation limits, paper room'],
          },
          { service: 'plans', notes: ['Track layout rev B', 'Reflected ceiling plan', 'Case section details'] },
          { service: 'site', notes: ['Mock-up in the weaving room', 'Site visit with riggers'] },
        ],
      },
    ],
  },
  otterbourne: {
    name: 'Otterbourne Town Council',
    address: 'Council Offices\nMill Lane\nOtterbourne\nOT1 4BB',
    email: 'works@otterbourne-council.example',
    taxNumber: '',
    code: 'C04',
    currency: 'GBP',
    tax: 'standard',
    termsDays: null,
    taxPlace: 'GB',
    contract: {
      name: 'Town lighting agreement',
      terms: 'Hourly as agreed, up to the cap; a new order is needed beyond it.',
      cap: 30_000,
      termsDays: 21,
    },
    contacts: [
      {
        name: 'Clement Rudd',
        role: 'Works officer',
        email: 'works@otterbourne-council.example',
        telephone: '01632 960 119',
      },
    ],
    projects: [
      {
        name: 'Footbridge lighting',
        jobNumber: '2609',
        colour: 'harbour',
        weight: 15,
        stage: 'In hand',
        budget: { hours: 300, noticeAt: 75 },
        notes: [
          {
            service: 'design',
            notes: ['Bridge elevations rev C', 'Glare study from the towpath', 'Column spacing options'],
          },
          { service: 'plans', notes: ['Handrail detail', 'Cable route plan'] },
          { service: 'meeting', notes: ['Planning officer call', 'Public consultation evening'] },
        ],
      },
    ],
  },
  clairval: {
    name: 'Maison Clairval',
    address: '22 quai des Voiliers\n00000 Port-Clairval\nFrance',
    email: 'atelier@maison-clairval.example',
    taxNumber: 'FR 00 999999999',
    code: 'C05',
    currency: 'EUR',
    tax: 'reverse',
    termsDays: 45,
    taxPlace: 'FR',
    asBuyer: {
      country: 'FR',
      city: 'Port-Clairval',
      postCode: '00000',
      electronicAddress: '',
      reference: 'ATELIER-7',
    },
    condense: 'item',
    contacts: [
      { name: 'Odile Clairval', role: 'Directrice artistique', email: 'odile@maison-clairval.example', telephone: '' },
    ],
    projects: [
      {
        name: 'Salon windows',
        jobNumber: '2613',
        colour: 'ochre',
        weight: 8,
        notes: [
          { service: 'design', notes: ['Window scheme, winter set', 'Beam angle tests on silk'] },
          { service: 'programming', notes: ['Dusk scene timings'] },
        ],
      },
    ],
  },
  pinecrest: {
    name: 'Pinecrest Amphitheater',
    address: '400 Pinecrest Bowl Road\nPinecrest\nUSA',
    email: 'production@pinecrest-amphitheater.example',
    taxNumber: '',
    code: 'C06',
    currency: 'USD',
    tax: 'outside',
    termsDays: null,
    taxPlace: 'US',
    contacts: [
      {
        name: 'Wade Tillery',
        role: 'Production office',
        email: 'production@pinecrest-amphitheater.example',
        telephone: '555-0142',
      },
    ],
    projects: [
      {
        name: 'Summer series plot',
        jobNumber: '2614',
        colour: 'rose',
        weight: 7,
        notes: [
          { service: 'design', notes: ['Festival plot, draft two', 'Specials for visiting bands'] },
          { service: 'meeting', notes: ['Call with the production office'] },
        ],
      },
    ],
  },
};

export const internal: DemoProject = {
  name: 'Studio',
  jobNumber: '',
  colour: 'slate',
  weight: 10,
  notes: [
    { service: 'meeting', notes: ['Monday round', 'Quotes and post', 'Lamp shelf and stock', 'Portfolio pictures'] },
  ],
};

import type { CostCodeKey, MemberKey } from './basics';

/** Something bought, as it is made up over and over: amounts lie between two figures in pence. */
export interface DemoPurchase {
  supplier: string;
  text: string;
  costCode: CostCodeKey;
  least: number;
  most: number;
}

/** Bills of suppliers for the museum's gallery. */
export const galleryBills: readonly (DemoPurchase & { second?: DemoPurchase })[] = [
  {
    supplier: 'Brightwater Supplies',
    text: 'Case lamps, 4 W, box of 24',
    costCode: 'lamps',
    least: 14_000,
    most: 31_000,
    second: { supplier: '', text: 'Diffusion gel, rolls', costCode: 'lamps', least: 2800, most: 7600 },
  },
  {
    supplier: 'Brightwater Supplies',
    text: 'Three-circuit track, 2 m lengths',
    costCode: 'lamps',
    least: 18_000,
    most: 46_000,
  },
  {
    supplier: 'Tollgate Rigging',
    text: 'Two riggers, ceiling track',
    costCode: 'riggers',
    least: 38_000,
    most: 64_000,
  },
  {
    supplier: 'Pollard Electrical',
    text: 'Electrician, gallery supply',
    costCode: 'riggers',
    least: 26_000,
    most: 42_000,
  },
  { supplier: 'Highmoor Access', text: 'Tower scaffold, week', costCode: 'hire', least: 12_500, most: 19_500 },
];

/** What members paid for the gallery themselves. */
export const galleryExpenses: readonly (DemoPurchase & {
  member: MemberKey;
  unit?: { unit: string; price: string };
})[] = [
  {
    supplier: 'Northline Rail',
    text: 'Return to Fernhill',
    costCode: 'travel',
    least: 1840,
    most: 4660,
    member: 'imogen',
  },
  {
    supplier: '',
    text: 'Van to Fernhill and back',
    costCode: 'travel',
    least: 62,
    most: 118,
    member: 'teodor',
    unit: { unit: 'mile', price: '0.45' },
  },
  {
    supplier: 'Saltmere Hardware',
    text: 'Fixings for the mock-up',
    costCode: 'lamps',
    least: 380,
    most: 2450,
    member: 'teodor',
  },
  {
    supplier: 'The Weavers Rest',
    text: 'Night in Fernhill',
    costCode: 'travel',
    least: 7800,
    most: 9600,
    member: 'asha',
  },
];

/** Bills and expenses of other work. */
export const otherBills: readonly (DemoPurchase & { project: string; forClient: boolean })[] = [
  {
    project: 'Winter season rig',
    supplier: 'Beamline Hire',
    text: 'Two follow spots, week',
    costCode: 'hire',
    least: 21_000,
    most: 24_000,
    forClient: true,
  },
  {
    project: 'Winter season rig',
    supplier: 'Brightwater Supplies',
    text: 'Gel cut to size',
    costCode: 'lamps',
    least: 4200,
    most: 9900,
    forClient: true,
  },
  {
    project: 'Spring double bill',
    supplier: 'Lantern Press',
    text: 'Plots on A1',
    costCode: 'lamps',
    least: 2400,
    most: 5200,
    forClient: false,
  },
  {
    project: 'Footbridge lighting',
    supplier: 'Pollard Electrical',
    text: 'Trial columns on the towpath',
    costCode: 'riggers',
    least: 32_000,
    most: 51_000,
    forClient: true,
  },
];

export const unitRates = [
  { name: 'Own car or van', unit: 'mile', price: '0.45', costCode: 'travel' },
  { name: 'Night away', unit: 'night', price: '92', costCode: 'travel' },
] as const satisfies readonly { name: string; unit: string; price: string; costCode: CostCodeKey }[];

export const matchRules: readonly {
  words: string;
  project: string | null;
  costCode: CostCodeKey;
  forClient: boolean;
}[] = [
  { words: 'gallery', project: 'Museum gallery 3', costCode: 'lamps', forClient: true },
  { words: 'fernhill return', project: 'Museum gallery 3', costCode: 'travel', forClient: true },
  { words: 'kettle crumb lunch', project: 'Studio', costCode: 'travel', forClient: false },
];

/** Amounts agreed with clients, in whole pounds. */
export const agreed: readonly {
  project: string;
  kind: 'estimate' | 'allowance' | 'extra' | 'fixed';
  text: string;
  amount: number;
  cost?: number;
  costCode?: CostCodeKey;
  daysAgo?: number;
  by?: string;
  milestone?: string;
}[] = [
  {
    project: 'Museum gallery 3',
    kind: 'estimate',
    text: 'Design and drawings',
    amount: 24_000,
    cost: 14_500,
    costCode: 'design',
  },
  {
    project: 'Museum gallery 3',
    kind: 'estimate',
    text: 'Site and programming',
    amount: 9000,
    cost: 5600,
    costCode: 'production',
  },
  {
    project: 'Museum gallery 3',
    kind: 'estimate',
    text: 'Lamps, gel, track and cable',
    amount: 7800,
    cost: 6600,
    costCode: 'lamps',
  },
  {
    project: 'Museum gallery 3',
    kind: 'estimate',
    text: 'Riggers and electricians',
    amount: 5600,
    cost: 5000,
    costCode: 'riggers',
  },
  {
    project: 'Museum gallery 3',
    kind: 'allowance',
    text: 'Pendant for the weaving room, client to choose',
    amount: 1200,
    costCode: 'lamps',
  },
  {
    project: 'Museum gallery 3',
    kind: 'extra',
    text: 'Second plot for the paper room',
    amount: 640,
    costCode: 'design',
    daysAgo: 11,
    by: 'Sabine Orme',
  },
  { project: 'Museum gallery 3', kind: 'extra', text: 'Evening opening scenes', amount: 380, costCode: 'production' },
  {
    project: 'Spring double bill',
    kind: 'fixed',
    text: 'On approval of the plans',
    amount: 9000,
    milestone: 'Plans approved',
  },
  {
    project: 'Spring double bill',
    kind: 'fixed',
    text: 'On technical week',
    amount: 9000,
    milestone: 'Technical week',
  },
];

export const orders = [
  {
    project: 'Museum gallery 3',
    supplier: 'Brightwater Supplies',
    number: 'SL-PO-31',
    text: 'Track and adaptors, second half',
    costCode: 'lamps',
    amount: 1850,
    daysAgo: 9,
  },
  {
    project: 'Museum gallery 3',
    supplier: 'Tollgate Rigging',
    number: 'SL-PO-33',
    text: 'Riggers, opening week',
    costCode: 'riggers',
    amount: 1400,
    daysAgo: 5,
  },
] as const satisfies readonly {
  project: string;
  supplier: string;
  number: string;
  text: string;
  costCode: CostCodeKey;
  amount: number;
  daysAgo: number;
}[];

/** Accounts of suppliers, of banks that there are not; one that bills the studio is not written down yet. */
export const payees: readonly { name: string; number: string; bic?: string }[] = [
  { name: 'Brightwater Supplies', number: 'GB27 SALT 0000 0031 4022 77' },
  { name: 'Tollgate Rigging', number: '00-00-21 44556677' },
  { name: 'Pollard Electrical', number: 'GB29 SALT 0000 0090 8172 63', bic: 'SALTGB2L' },
  { name: 'Lantern Press', number: '00-00-43 12344321' },
];

/** The members whose accounts are written down. */
export const paidMembers = [
  { member: 'imogen', number: 'GB09 SALT 0000 0077 0012 34' },
  { member: 'asha', number: 'GB10 SALT 0000 0077 0056 78' },
] as const;

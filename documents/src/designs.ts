import { invoiceDesigns, type FrozenInvoice, type InvoiceDesign } from '@half-penny/core/model';

/** How an invoice looks: one accent, what stands under its sum, and how its head is laid out. */
export interface PaperDesign {
  name: string;
  says: string;
  /** Dark enough to be read on white, 4.5:1 and more. */
  accent: string;
  /** The ground of a head that is a band. */
  tint: string;
  rule: 'double' | 'thick' | 'single';
  /** The studio at the left, at the right, below an edge of colour, or all of it below a band that holds what is asked for. */
  head: 'left' | 'right' | 'edge' | 'band';
}

export const paperDesigns: Record<InvoiceDesign, PaperDesign> = {
  ledger: {
    name: 'Ledger',
    says: 'Copper, the sum ruled twice',
    accent: '#9b4518',
    tint: '#f8ebe2',
    rule: 'double',
    head: 'left',
  },
  harbour: {
    name: 'Harbour',
    says: 'Petrol, an edge along the top',
    accent: '#0b6a70',
    tint: '#e2f1f0',
    rule: 'thick',
    head: 'edge',
  },
  slate: {
    name: 'Slate',
    says: 'Ink alone, the studio at the right',
    accent: '#13222b',
    tint: '#eaf0ef',
    rule: 'single',
    head: 'right',
  },
  moss: {
    name: 'Moss',
    says: 'Green, a band that holds what is asked for',
    accent: '#46651f',
    tint: '#edf3e2',
    rule: 'single',
    head: 'band',
  },
  plum: {
    name: 'Plum',
    says: 'Purple, the sum ruled twice, the studio at the right',
    accent: '#6b2f5c',
    tint: '#f5e9f1',
    rule: 'double',
    head: 'right',
  },
  brick: {
    name: 'Brick',
    says: 'Red, a band and a thick rule',
    accent: '#9a2f22',
    tint: '#f9e9e6',
    rule: 'thick',
    head: 'band',
  },
  plain: {
    name: 'Plain',
    says: 'Black on white, for printers without colour',
    accent: '#000000',
    tint: '#ffffff',
    rule: 'double',
    head: 'left',
  },
};

/** The designs in the order that they are offered. */
export const designList = invoiceDesigns.map((key) => ({ key, ...paperDesigns[key] }));

/** The design an invoice was issued in. */
export const designOf = ({ design = 'ledger' }: Pick<FrozenInvoice, 'design'>): PaperDesign => paperDesigns[design];

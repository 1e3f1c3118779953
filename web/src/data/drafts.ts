import { beforeIssuing, computeDraft, type Draft, type Finding, type Pricer } from '@half-penny/core/billing';
import type { Invoice } from '@half-penny/core/model';
import { readInvoice } from './invoice-records';
import { wordsOf } from './in-words';
import { useRead } from './read';

/** A draft as it would be issued now, and what is odd about it. */
export interface DraftRow {
  invoice: Invoice;
  /** Null where it could not be worked out. */
  draft: Draft | null;
  findings: Finding[];
  fault: string | null;
}

/** Every draft there is, with what keeps it from being issued and what is odd about it. */
export function useDrafts(pricer: Pricer, day: string): DraftRow[] | undefined {
  return useRead(
    async (reader) => {
      const invoices = await reader.all('invoices');
      const issued = invoices.flatMap((row) => row.frozen ?? []);
      const rows: DraftRow[] = [];
      for (const invoice of invoices.filter((row) => row.frozen === null)) {
        const records = await readInvoice(reader, pricer, invoice.id);
        if (!records) continue;
        try {
          const draft = computeDraft(pricer, { ...records, day });
          const costs = records.rows.costs;
          const costLines = await reader.by(
            'costLines',
            'costId',
            costs.map((row) => row.id),
          );
          const findings = beforeIssuing(pricer, {
            draft,
            invoice,
            day,
            issued,
            rows: { costs: [...costs], costLines },
          });
          rows.push({ invoice, draft, findings, fault: null });
        } catch (thrown) {
          rows.push({ invoice, draft: null, findings: [], fault: wordsOf(thrown) });
        }
      }
      return rows;
    },
    [pricer, day],
  );
}

import { beforeIssuing, computeDraft, type Draft, type Finding, type Pricer } from '@half-penny/core/billing';
import type { Invoice } from '@half-penny/core/model';
import { wordsOf } from './in-words';
import { readInvoice } from './invoice-records';
import { useInTurn } from './read';

/** A draft as it would be issued now, and what is odd about it. */
export interface DraftRow {
  invoice: Invoice;
  /** Null where it could not be worked out. */
  draft: Draft | null;
  findings: Finding[];
  fault: string | null;
}

/** Every draft there is, with what keeps it from being issued and what is odd about it. */
export const useDrafts = (pricer: Pricer, day: string): DraftRow[] | undefined =>
  useInTurn(
    async (reader) => {
      const invoices = await reader.all('invoices');
      const issued = invoices.flatMap((row) => row.frozen ?? []);
      return invoices.filter((row) => row.frozen === null).map(({ id }) => ({ id, issued }));
    },
    async (once, { id, issued }): Promise<DraftRow | undefined> => {
      const records = await once((reader) => readInvoice(reader, pricer, id));
      if (!records) return undefined;
      const { invoice, rows } = records;
      const costIds = rows.costs.map((row) => row.id);
      const costLines = costIds.length === 0 ? [] : await once((reader) => reader.by('costLines', 'costId', costIds));
      try {
        const draft = computeDraft(pricer, { ...records, day });
        const costs = [...rows.costs];
        const findings = beforeIssuing(pricer, { draft, invoice, day, issued, rows: { costs, costLines } });
        return { invoice, draft, findings, fault: null };
      } catch (thrown) {
        return { invoice, draft: null, findings: [], fault: wordsOf(thrown) };
      }
    },
    [pricer, day],
  );

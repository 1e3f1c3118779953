import { beforeIssuing, type Draft, type Finding, type Pricer, type Remedy } from '@half-penny/core/billing';
import type { Id, Invoice } from '@half-penny/core/model';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useRead } from '../../data/read';
import type { SentFrom } from '../../parts/page';

/** What keeps a draft from being issued and what is odd about it, each with the way to put it right and back. */
export function Findings({
  findings,
  clientId,
  back,
}: {
  findings: readonly Finding[];
  clientId: Id;
  back: SentFrom['back'];
}) {
  return (
    <section aria-label="Before it is issued">
      <h3 className="mb-1 text-sm font-semibold text-soft">Before it is issued</h3>
      <ul className="flex flex-col border-t border-rule">
        {findings.map(({ weight, text, remedy }) => {
          const { to, words } = placeOf(remedy, clientId);
          return (
            <li key={text} className="flex items-baseline gap-3 border-b border-rule py-1.5">
              <span className={`written min-w-0 flex-1 ${weight === 'refused' ? 'text-fault' : 'text-attention'}`}>
                {text}
              </span>
              {to && (
                <Link to={to} state={{ back } satisfies SentFrom} className="shrink-0 text-time underline">
                  {words}
                </Link>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Where something is put right; what stands on the draft itself, or is its date, needs no way there. */
function placeOf(remedy: Remedy, clientId: Id): { to: string | null; words: string } {
  switch (remedy.kind) {
    case 'client':
      return { to: `/clients/${clientId}/details`, words: 'Open the client' };
    case 'rates':
      return { to: `/clients/${clientId}/rates`, words: 'Open its rates' };
    case 'exchange':
      return { to: '/setup/rates', words: 'Open exchange rates' };
    case 'studio':
      return { to: '/setup/studio', words: 'Open the studio' };
    case 'taxes':
    case 'accounts':
      return { to: '/setup/invoicing', words: 'Open invoicing' };
    case 'checking':
      return { to: '/team', words: 'Open Team' };
    case 'cost':
      return { to: `/costs/cost/${remedy.costId}`, words: 'Add the receipt' };
    case 'draft':
    case 'date':
      return { to: null, words: '' };
  }
}

/** What is found on a draft that is dated a day; undefined while it is being looked at. */
export function useFindings(pricer: Pricer, invoice: Invoice, draft: Draft, day: string): Finding[] | undefined {
  const rows = useRead(
    async (reader) => {
      const ids = new Set(draft.lines.flatMap((line) => line.charges.flatMap((charge) => charge.cost?.id ?? [])));
      const costs = (await reader.many('costs', [...ids])).filter((row) => row !== undefined);
      const costLines = await reader.by('costLines', 'costId', [...ids]);
      const issued = (await reader.all('invoices')).flatMap((row) => row.frozen ?? []);
      return { costs, costLines, issued };
    },
    [draft],
  );
  return useMemo(
    () => rows && beforeIssuing(pricer, { draft, invoice, day, issued: rows.issued, rows }),
    [rows, pricer, draft, invoice, day],
  );
}

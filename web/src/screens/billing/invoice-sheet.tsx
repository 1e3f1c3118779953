import { usePicture } from '../../data/queries';
import type { FrozenInvoice } from '@half-penny/core/model';
import { invoiceView, lineHeads, pictureAddress } from '@half-penny/documents';

/** An invoice as the client sees it: the same words and figures as on paper. Printing a screen prints this alone. */
export function InvoiceSheet({ invoice, number }: { invoice: FrozenInvoice; number?: string }) {
  const view = invoiceView(invoice, number);
  const columns = 4 + (view.openBook ? 2 : 0) + (view.rates ? 1 : 0);
  const { logoId } = invoice.studio;
  const logo = usePicture(logoId);
  return (
    <article
      aria-label={`${view.title} ${view.number} as the client sees it`}
      data-testid="invoice-sheet"
      className="border border-strong bg-sheet px-5 py-6 md:px-9 md:py-8 print:border-0 print:p-0"
    >
      <header className="mb-6 flex flex-wrap justify-between gap-6">
        <div className="written min-w-0">
          {logo && (
            <img src={pictureAddress(logo)} alt="" className="mb-2 max-h-16 max-w-52 object-contain object-left" />
          )}
          <div className="text-title font-bold">{view.studioName}</div>
          <Rows rows={view.studio} className="text-soft" />
        </div>
        <dl className="w-64">
          {view.facts.map(([label, value]) => (
            <div key={label} className="flex gap-3 border-b border-rule py-0.5">
              <dt className="w-24 shrink-0 text-soft">{label}</dt>
              <dd className="written flex-1 font-semibold">{value}</dd>
            </div>
          ))}
        </dl>
      </header>
      <div className="written mb-6">
        <Rows rows={view.client} first="font-semibold" />
      </div>
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-ink text-xs text-soft">
            <th className="py-1 pr-2 text-left font-semibold">{lineHeads.text}</th>
            <th className="w-24 py-1 text-right font-semibold">{lineHeads.quantity}</th>
            <th className="w-24 py-1 text-right font-semibold max-md:hidden print:table-cell">{lineHeads.price}</th>
            {view.openBook && (
              <>
                <th className="w-24 py-1 text-right font-semibold max-md:hidden print:table-cell">{lineHeads.cost}</th>
                <th className="w-16 py-1 text-right font-semibold max-md:hidden print:table-cell">
                  {lineHeads.markup}
                </th>
              </>
            )}
            {view.rates && (
              <th className="w-14 py-1 text-right font-semibold max-md:hidden print:table-cell">{lineHeads.rate}</th>
            )}
            <th className="w-28 py-1 text-right font-semibold">{lineHeads.amount}</th>
          </tr>
        </thead>
        <tbody>
          {view.lines.flatMap((line) => [
            line.heading && (
              <tr key={`${line.key} heading`} className="break-after-avoid">
                <th colSpan={columns} scope="colgroup" className="written pt-4 pb-1 text-left font-semibold">
                  {line.heading}
                </th>
              </tr>
            ),
            <tr key={line.key} className="break-inside-avoid border-b border-rule align-top">
              <td className="written py-1.5 pr-3">
                {line.text}
                {line.discount && <span className="block text-sm text-soft">{line.discount}</span>}
              </td>
              <td className="py-1.5 text-right font-mono text-sm whitespace-nowrap">{line.quantity}</td>
              <td className="py-1.5 pl-4 text-right font-mono text-sm whitespace-nowrap max-md:hidden print:table-cell">
                {line.price}
              </td>
              {view.openBook && (
                <>
                  <td className="py-1.5 pl-4 text-right font-mono text-sm whitespace-nowrap max-md:hidden print:table-cell">
                    {line.cost}
                  </td>
                  <td className="py-1.5 pl-4 text-right font-mono text-sm whitespace-nowrap max-md:hidden print:table-cell">
                    {line.markup}
                  </td>
                </>
              )}
              {view.rates && (
                <td className="py-1.5 pl-4 text-right font-mono text-sm whitespace-nowrap max-md:hidden print:table-cell">
                  {line.rate}
                </td>
              )}
              <td className="py-1.5 pl-4 text-right font-mono text-sm whitespace-nowrap">{line.amount}</td>
            </tr>,
            line.subtotal && (
              <tr key={`${line.key} subtotal`}>
                <td colSpan={columns - 1} className="py-1 text-right text-sm text-soft">
                  Total
                </td>
                <td className="py-1 text-right font-mono text-sm font-semibold whitespace-nowrap">{line.subtotal}</td>
              </tr>
            ),
          ])}
        </tbody>
      </table>
      <dl className="mt-2 ml-auto w-full max-w-80 break-inside-avoid">
        {view.totals.map((total, index) => (
          <div
            key={index}
            className={`flex justify-between gap-4 py-0.5 ${total.strong ? 'mt-1 border-t border-ink pt-1 text-lg font-bold' : total.beside ? 'text-soft' : ''}`}
          >
            <dt>{total.label}</dt>
            <dd
              className={`font-mono whitespace-nowrap ${total.strong ? 'border-b-[3px] border-double border-money' : ''}`}
            >
              {total.amount}
            </dd>
          </div>
        ))}
      </dl>
      {view.notes.length > 0 && (
        <div className="written mt-6 max-w-lg">
          <Rows rows={view.notes} />
        </div>
      )}
      {view.receipts.length > 0 && (
        <p className="mt-4 text-sm text-soft">
          {view.receipts.length} {view.receipts.length === 1 ? 'receipt follows' : 'receipts follow'}, each marked with
          its line.
        </p>
      )}
      {view.payment.length > 0 && (
        <div className="written mt-6 max-w-lg">
          <div className="text-xs text-soft">How to pay</div>
          <Rows rows={view.payment} />
        </div>
      )}
    </article>
  );
}

function Rows({ rows, className = '', first = '' }: { rows: readonly string[]; className?: string; first?: string }) {
  return rows.map((row, index) => (
    <div key={index} className={index === 0 ? `${className} ${first}` : className}>
      {row}
    </div>
  ));
}

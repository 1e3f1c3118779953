import { usePicture } from '../../data/queries';
import type { FrozenInvoice } from '@half-penny/core/model';
import { drawnCode, invoiceView, pictureAddress, type InvoiceView, type PaperDesign } from '@half-penny/documents';
import type { CSSProperties } from 'react';

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
      style={{ '--accent': view.design.accent } as CSSProperties}
      className="relative overflow-hidden border border-strong bg-sheet px-5 py-6 md:px-9 md:py-8 print:border-0 print:p-0"
    >
      <Head view={view} logo={logo ? pictureAddress(logo) : null} />
      {view.opening.length > 0 && (
        <div className="written mb-5 max-w-lg">
          <Rows rows={view.opening} first="text-lg font-semibold" />
        </div>
      )}
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-(--accent) text-xs text-soft">
            <th className="py-1 pr-2 text-left font-semibold">{view.labels.description}</th>
            <th className="w-24 py-1 text-right font-semibold">{view.labels.quantity}</th>
            <th className="w-24 py-1 text-right font-semibold max-md:hidden print:table-cell">{view.labels.price}</th>
            {view.openBook && (
              <>
                <th className="w-24 py-1 text-right font-semibold max-md:hidden print:table-cell">
                  {view.labels.cost}
                </th>
                <th className="w-16 py-1 text-right font-semibold max-md:hidden print:table-cell">
                  {view.labels.markup}
                </th>
              </>
            )}
            {view.rates && (
              <th className="w-14 py-1 text-right font-semibold max-md:hidden print:table-cell">{view.labels.tax}</th>
            )}
            <th className="w-28 py-1 text-right font-semibold">{view.labels.amount}</th>
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
                  {view.labels.total}
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
            <dd className={`font-mono whitespace-nowrap ${total.strong ? underSum[view.design.rule] : ''}`}>
              {total.amount}
            </dd>
          </div>
        ))}
      </dl>
      {view.options.length > 0 && (
        <div className="mt-6">
          <h3 className="border-b border-rule pb-1 font-semibold">{view.labels.optional}</h3>
          {view.options.map((line) => (
            <div key={line.key} className="flex flex-wrap gap-x-4 border-b border-rule py-1.5">
              <span className="written min-w-0 flex-1">{line.text}</span>
              <span className="font-mono text-sm whitespace-nowrap">{line.quantity}</span>
              <span className="w-28 text-right font-mono text-sm whitespace-nowrap">{line.amount}</span>
            </div>
          ))}
        </div>
      )}
      {view.notes.length > 0 && (
        <div className="written mt-6 max-w-lg">
          <Rows rows={view.notes} />
        </div>
      )}
      {view.receipts.length > 0 && <p className="mt-4 text-sm text-soft">{view.labels.receipts}</p>}
      {view.payment.length > 0 && (
        <div className="written mt-6 max-w-lg">
          <div className="text-xs text-soft">{view.labels.howToPay}</div>
          <Rows rows={view.payment} />
          {view.payCode !== '' && <PayCode text={view.payCode} says={view.labels.payByCode} />}
        </div>
      )}
    </article>
  );
}

/** The code that the payer's bank reads: black on white in every theme. */
function PayCode({ text, says }: { text: string; says: string }) {
  const { size, path } = drawnCode(text);
  return (
    <figure className="mt-3 w-fit">
      <svg
        role="img"
        aria-label="Code to pay by"
        viewBox={`-4 -4 ${size + 8} ${size + 8}`}
        shapeRendering="crispEdges"
        className="size-28 bg-white"
      >
        <path d={path} fill="#000" />
      </svg>
      <figcaption className="text-xs text-soft">{says}</figcaption>
    </figure>
  );
}

/** Accents are made for white paper; on the dark sheet they are drawn, and never written. */
const underSum: Record<PaperDesign['rule'], string> = {
  double: 'border-b-[3px] border-double border-(--accent)',
  thick: 'border-b-[3px] border-(--accent)',
  single: 'border-b border-(--accent)',
};

function Head({ view, logo }: { view: InvoiceView; logo: string | null }) {
  const { head } = view.design;
  const studio = (
    <div key="studio" className="written min-w-0">
      {logo && <img src={logo} alt="" className="mb-2 max-h-16 max-w-52 object-contain object-left" />}
      <div className="text-lg font-bold">{view.studioName}</div>
      <Rows rows={view.studio} className="text-soft" />
    </div>
  );
  const asked = (
    <div key="asked" className="w-64">
      <div className="mb-2 text-2xl leading-8 font-bold">{view.title}</div>
      <div className="text-sm text-soft">{view.due.label}</div>
      <div className="font-mono text-2xl leading-8 font-bold text-money">{view.due.amount}</div>
      {view.due.by && <div>{view.due.by}</div>}
    </div>
  );
  const client = (
    <div key="client" className="written min-w-0">
      <Rows rows={view.client} first="font-semibold" />
    </div>
  );
  const facts = (
    <dl key="facts" className="w-64">
      {view.facts.map(([label, value]) => (
        <div key={label} className="flex gap-3 border-b border-rule py-0.5">
          <dt className="w-24 shrink-0 text-soft">{label}</dt>
          <dd className="written flex-1 font-semibold">{value}</dd>
        </div>
      ))}
    </dl>
  );
  const row = 'mb-6 flex flex-wrap justify-between gap-6';
  if (head === 'band') {
    return (
      <header>
        <div className="-mx-5 -mt-6 mb-6 flex flex-wrap justify-between gap-6 border-b-[3px] border-(--accent) bg-[color-mix(in_srgb,var(--accent)_10%,var(--color-sheet))] px-5 py-6 md:-mx-9 md:-mt-8 md:px-9 md:py-7">
          {asked}
          {facts}
        </div>
        <div className={row}>
          {client}
          {studio}
        </div>
      </header>
    );
  }
  return (
    <header>
      {head === 'edge' && <div aria-hidden className="absolute inset-x-0 top-0 h-2 bg-(--accent)" />}
      <div className={row}>{head === 'right' ? [asked, studio] : [studio, asked]}</div>
      <div className={row}>
        {client}
        {facts}
      </div>
    </header>
  );
}

function Rows({ rows, className = '', first = '' }: { rows: readonly string[]; className?: string; first?: string }) {
  return rows.map((row, index) => (
    <div key={index} className={index === 0 ? `${className} ${first}` : className}>
      {row}
    </div>
  ));
}

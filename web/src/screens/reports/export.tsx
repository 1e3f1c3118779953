import { usePicture } from '../../data/queries';
import { useRead } from '../../data/read';
import type { Pricer } from '@half-penny/core/billing';
import { type Picture } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { asksTrail, sheetOf, type ReportResult } from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import {
  reportCsv,
  reportHtml,
  reportText,
  writeReport,
  type LengthAs,
  type LengthsShown,
} from '@half-penny/formats/reports';
import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { noticed } from '../../state/notices';
import { useAppDispatch } from '../../state/store';
import { reportSpreadsheet } from '../../data/report-files';
import { useSession } from '../../data/session';
import { useWorthSeen } from '../../data/worth-seen';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { Progress } from '../../parts/progress';
import { makeReportPdf, AbortError, type CancellableTask } from '../../workers/tasks';
import { inAddress } from './address';
import { SendReport } from './send-report';

interface OutProps {
  answer: ReportResult;
  title: string;
  note: string;
  pricer: Pricer;
  today: Day;
}

/** What a report can become outside: files, paper, a table to paste, and the report itself to be given to somebody. */
export function Out({ answer, title, note, pricer, today }: OutProps) {
  const { reader, entry } = useSession();
  const dispatch = useAppDispatch();
  const [sending, setSending] = useState(false);
  const [making, setMaking] = useState<CancellableTask<Blob> | null>(null);
  const { workspace } = pricer.book;
  const worth = useWorthSeen(pricer);
  const logo = usePicture(workspace.logoId);
  const invoices = useInvoicesOf(answer);
  const sheet = () => sheetOf(answer, title, note, workspace.lengthStyle);
  const name = (ending: string) =>
    `${title}${answer.range ? ` ${answer.range.from} to ${answer.range.to}` : ''}.${ending}`;
  const tell = (words: string) => dispatch(noticed({ text: words, fault: false, undo: null }));
  const csv = (lengths: LengthAs) =>
    save(new Blob(['\ufeff', reportCsv(sheet(), lengths)], { type: 'text/csv' }), name('csv'));
  const xlsx = async (lengths: LengthsShown = 'h:mm') => {
    save(await reportSpreadsheet({ reader, entry }, pricer, sheet(), today, lengths, worth.of), name('xlsx'));
  };
  const pdf = (invoiceId: string | null) => {
    const begin = async () => {
      const invoice = invoiceId === null ? undefined : await reader.get('invoices', invoiceId);
      const frozen = invoice?.frozen;
      const own: Picture | undefined = frozen?.studio.logoId
        ? await reader.get('pictures', frozen.studio.logoId)
        : undefined;
      const { name: studio, address, email, paper } = workspace;
      const work = makeReportPdf(
        sheet(),
        { name: studio, address, email, paper },
        logo,
        frozen ? { frozen, logo: own } : null,
      );
      setMaking(work);
      save(await work.result, name('pdf'));
    };
    begin()
      .catch((thrown: unknown) => !(thrown instanceof AbortError) && tell(wordsOf(thrown)))
      .finally(() => setMaking(null));
  };
  const html = () => {
    const head = {
      studio: workspace.name,
      address: workspace.address,
      email: workspace.email,
      logo: logo ? `data:${logo.mediaType};base64,${logo.data}` : '',
    };
    save(new Blob([reportHtml(sheet(), head)], { type: 'text/html' }), name('html'));
  };
  const copy = async (text: string, said: string) => {
    try {
      await navigator.clipboard.writeText(text);
      tell(said);
    } catch {
      tell('The browser does not let anything be copied here. Nothing was.');
    }
  };
  const address = () => `${location.origin}/reports/ask/new?ask=${encodeURIComponent(inAddress(answer.definition))}`;
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>Export…</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-50 max-h-[80vh] w-72 overflow-auto rounded-lg border border-strong bg-sheet p-2 shadow-xl"
          >
            <Group label="As a file">
              <Item onSelect={() => pdf(null)}>PDF, with the studio’s head</Item>
              <Item onSelect={() => void xlsx().catch((thrown: unknown) => tell(wordsOf(thrown)))}>
                Spreadsheet (XLSX), with live sums
              </Item>
              <Item onSelect={() => void xlsx('minutes').catch((thrown: unknown) => tell(wordsOf(thrown)))}>
                XLSX with lengths as “90 min”
              </Item>
              <Item onSelect={() => csv('h:mm')}>CSV, hours and minutes</Item>
              <Item onSelect={() => csv('decimal')}>CSV, decimal hours</Item>
              <Item onSelect={() => csv('tenths')}>CSV, tenths of an hour</Item>
              <Item onSelect={() => csv('minutes')}>CSV, lengths as “90 min”</Item>
              <Item onSelect={html}>Web page (HTML), complete in itself</Item>
            </Group>
            {invoices.length > 0 && (
              <Group label="Behind an invoice, in one PDF">
                {invoices.map((each) => (
                  <Item key={each.id} onSelect={() => pdf(each.id)}>
                    {each.number} · {each.client}
                  </Item>
                ))}
              </Group>
            )}
            {!asksTrail(answer.definition) && (
              <Group label="To a client">
                <Item onSelect={() => setSending(true)}>By letter…</Item>
              </Group>
            )}
            <Group label="At once">
              <Item onSelect={() => requestAnimationFrame(() => window.print())}>Print</Item>
              <Item onSelect={() => void copy(reportText(sheet()), 'The table is copied.')}>Copy as a table</Item>
            </Group>
            <Group label="What it asks, without data">
              <Item
                onSelect={() =>
                  void copy(address(), 'The address is copied. It holds what the report asks, and no data.')
                }
              >
                Copy its address
              </Item>
              <Item
                onSelect={() =>
                  save(
                    new Blob([writeReport(title, note, answer.definition)], { type: 'application/json' }),
                    `${title}.report.json`,
                  )
                }
              >
                As a file to give away
              </Item>
            </Group>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {making && <Progress title="Making the PDF" share={null} onStop={making.stop} />}
      {sending && <SendReport {...{ pricer, answer, title, note, today }} onClose={() => setSending(false)} />}
    </>
  );
}

const Group = ({ label, children }: { label: string; children: ReactNode }) => (
  <DropdownMenu.Group className="border-b border-rule py-1 last:border-0">
    <DropdownMenu.Label className="px-2 py-1 text-xs font-semibold text-soft">{label}</DropdownMenu.Label>
    {children}
  </DropdownMenu.Group>
);

const Item = ({ onSelect, children }: { onSelect: () => void; children: ReactNode }) => (
  <DropdownMenu.Item
    className="cursor-pointer rounded-sm px-2 py-1 outline-none data-highlighted:bg-time-ground"
    onSelect={onSelect}
  >
    {children}
  </DropdownMenu.Item>
);

const MOST_INVOICES = 8;

/** Issued invoices of the clients that a report is narrowed to, the latest first. */
function useInvoicesOf({ definition }: ReportResult): { id: string; number: string; client: string }[] {
  const only = definition.filters.find((each) => each.field === 'client' && !each.without)?.keys ?? [];
  const key = only.join();
  return (
    useRead(
      async (reader) => {
        if (!key) return [];
        const rows = await reader.by('invoices', 'clientId', key.split(','));
        return rows
          .filter((row) => row.frozen && !row.voided && row.kind === 'invoice')
          .sort((a, b) => b.seq! - a.seq!)
          .slice(0, MOST_INVOICES)
          .map((row) => ({ id: row.id, number: row.frozen!.number, client: row.frozen!.client.name }));
      },
      [key],
    ) ?? []
  );
}

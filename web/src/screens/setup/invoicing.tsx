import { invoiceNumber, type Pricer } from '@half-penny/core/billing';
import { Fault, type Workspace } from '@half-penny/core/model';
import { roundingRules, type RoundingRule } from '@half-penny/core/money';
import { addDays, showDayShort } from '@half-penny/core/time';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { SavedField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { Section } from '../../parts/page';
import { readTerms } from '../../parts/read-terms';
import { BankAccounts } from './bank-accounts';
import { PayingOnline } from './paying-online';
import { LatePayment } from './late-payment';
import { PaperDesigns } from './paper-designs';
import { OlderPapers } from './older-papers';
import { Taxes } from './taxes';

/** Numbering, terms, paper, taxes, and how amounts are rounded. */
export function Invoicing({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const today = useToday();
  const { workspace } = pricer.book;
  const save = (fields: Partial<Omit<Workspace, 'id'>>) => run('workspace.edit', fields);
  return (
    <>
      <Section title="Invoices">
        <div className="grid max-w-3xl gap-4 border-t border-ink px-2 pt-3 md:grid-cols-3">
          <SavedField
            label="Number: prefix"
            value={workspace.numberPrefix}
            save={(numberPrefix) => save({ numberPrefix })}
            hint={`YYYY and MM become the year and month. For example ${invoiceNumber(workspace, workspace.firstNumber, today)}`}
          />
          <SavedSelect
            label="Number: digits"
            value={String(workspace.numberDigits)}
            save={(text) => save({ numberDigits: Number(text) })}
            options={[1, 2, 3, 4, 5, 6].map((digits) => [String(digits), String(digits)] as const)}
            hint="The figure is filled with zeros: 7 with four digits is 0007."
          />
          <SavedField
            label="Number: first"
            inputMode="numeric"
            value={String(workspace.firstNumber)}
            save={async (text) => save({ firstNumber: readWhole(text) })}
            hint="Fixed once an invoice is issued."
          />
          <SavedField
            label="Days until due"
            inputMode="numeric"
            value={String(workspace.termsDays)}
            save={async (text) => save({ termsDays: readTerms(text) })}
            hint={`Where the client or contract says nothing else: of an invoice of today, ${showDayShort(addDays(today, workspace.termsDays))}.`}
          />
          <SavedSelect
            label="Paper"
            value={workspace.paper}
            save={(paper) => save({ paper: paper as Workspace['paper'] })}
            options={[
              ['A4', 'A4'],
              ['Letter', 'US Letter'],
            ]}
            hint="Of the PDF of invoices from now on."
          />
          <SavedSelect
            label="Lengths are written"
            value={workspace.lengthStyle}
            save={(style) => save({ lengthStyle: style as Workspace['lengthStyle'] })}
            options={[
              ['h:mm', '1:30'],
              ['decimal', '1.50'],
            ]}
            hint="On invoices from now on: an hour and a half is 1:30 h or 1.50 h."
          />
          <SavedSelect
            label="Tax is worked out"
            value={workspace.taxMethod}
            save={(method) => save({ taxMethod: method as Workspace['taxMethod'] })}
            options={[
              ['invoice', 'On the net total of each rate'],
              ['line', 'Line by line'],
            ]}
            hint="On 3 lines of 0.33 at 20 %: 0.20 on the total, 0.21 line by line."
          />
          <SavedSelect
            label="Amounts are rounded"
            value={workspace.amountRounding}
            save={(rule) => save({ amountRounding: rule as RoundingRule })}
            options={roundingRules.map((rule) => [rule, rule] as const)}
            hint="Decides what 0.125 becomes: 0.13 half away from zero, 0.12 half to even."
          />
        </div>
      </Section>
      <PaperDesigns pricer={pricer} />
      <BankAccounts pricer={pricer} />
      <PayingOnline pricer={pricer} />
      <Taxes pricer={pricer} />
      <LatePayment pricer={pricer} />
      <OlderPapers />
    </>
  );
}

function readWhole(text: string): number {
  if (!/^\d{1,8}$/.test(text.trim()) || Number(text) < 1)
    throw new Fault('not-a-number', 'This is a whole number of at least 1.', '', { text });
  return Number(text);
}

import { REMINDER_DAYS, type Pricer } from '@half-penny/core/billing';
import {
  condensings,
  documentLanguages,
  lineParts,
  type ApprovedPolicy,
  purchaseOrderHabits,
  type Client,
  type Condensing,
  type DocumentLanguage,
  type LinePart,
} from '@half-penny/core/model';
import { approvedWords } from '../../parts/approved-words';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { Checks } from '../../parts/checks';
import { condenseWords } from '../../parts/condense-words';
import { SavedField } from '../../parts/field';
import { readReminderDays } from '../../parts/reminder-days';
import { languageNames } from '../../parts/languages';
import { SavedSelect } from '../../parts/select';
import { Section } from '../../parts/page';
import { CodeList } from './code-list';

const PARTS: Record<LinePart, string> = {
  project: 'the project',
  service: 'the service',
  note: 'the note',
  member: 'who did it',
  day: 'the day',
};
const EXAMPLE: Record<LinePart, string> = {
  project: 'Winter season rig',
  service: 'Plans and sections',
  note: 'Plot sheet 4',
  member: 'Imogen Vale',
  day: '12 Nov',
};
const ORDERS = { never: 'No', sometimes: 'Sometimes', always: 'Always: an invoice needs its order number' } as const;

/** How a client likes its invoices: condensing, what a line says, its order numbers, open book, and which cost codes it has. */
export function InvoicePreferences({ pricer, client }: { pricer: Pricer; client: Client }) {
  const { run, attempt } = useChanges();
  const save = (fields: Partial<Omit<Client, 'id'>>) => run('client.edit', { id: client.id, ...fields });
  return (
    <>
      <Section title="Its invoices">
        <div className="grid gap-5 border-t border-ink px-2 pt-3 md:grid-cols-2">
          <SavedSelect
            label="Lines"
            hint="How a new draft begins; it can be changed there."
            value={client.condense}
            options={condensings.map((each) => [each, condenseWords[each]] as const)}
            save={(condense) => save({ condense: condense as Condensing })}
          />
          <SavedSelect
            label="Order numbers"
            hint="The number is written on the draft and printed at the head of the invoice."
            value={client.purchaseOrder}
            options={purchaseOrderHabits.map((each) => [each, ORDERS[each]] as const)}
            save={(purchaseOrder) => save({ purchaseOrder: purchaseOrder as Client['purchaseOrder'] })}
          />
          <SavedSelect
            label="Language"
            hint="Of invoices, quotes and letters to it, with its days and figures."
            value={client.language ?? 'en'}
            options={documentLanguages.map((each) => [each, languageNames[each]] as const)}
            save={(language) => save({ language: language as DocumentLanguage })}
          />
          {pricer.book.members.length > 1 && (
            <SavedSelect
              label="Time on its invoices"
              value={client.billsApproved ?? ''}
              options={[['', 'As the studio has it'], ...approvedWords]}
              save={(picked) => save({ billsApproved: (picked || null) as ApprovedPolicy | null })}
            />
          )}
          <SavedField
            label="Reminders"
            hint="In days past the due day, like 7, 21, 35. Empty: it is never reminded."
            value={(client.reminders ?? pricer.book.workspace.reminders ?? REMINDER_DAYS).join(', ')}
            save={(typed) => save({ reminders: readReminderDays(typed) })}
          />
          <fieldset className="md:col-span-2">
            <legend className="mb-1 text-xs font-semibold text-soft">
              What a line of a single entry says, in this order
            </legend>
            <Checks
              ordered
              options={lineParts.map((part) => ({
                id: part,
                name: PARTS[part],
                fixed: client.says.length === 1 && client.says[0] === part,
              }))}
              chosen={client.says}
              save={(says) => attempt('client.edit', { id: client.id, says })}
            />
            <p className="mt-1 text-xs text-soft">For example: {client.says.map((part) => EXAMPLE[part]).join(', ')}</p>
          </fieldset>
          <label className="flex items-start gap-2 md:col-span-2">
            <Check
              className="mt-1"
              checked={client.openBook}
              save={(openBook) => attempt('client.edit', { id: client.id, openBook })}
            />
            <span>
              Open book: lines at cost with a markup show both
              <span className="block text-xs text-soft">
                For example: Track layout rev B, cost 48.00, markup 62.5 %, price 78.00
              </span>
            </span>
          </label>
        </div>
      </Section>
      <Section title="Cost codes in use">
        <div className="border-t border-ink px-2 pt-3">
          <CodeList
            costCodes={pricer.book.costCodes}
            chosen={client.costCodeIds}
            save={(costCodeIds) => attempt('client.edit', { id: client.id, costCodeIds })}
            all="All: every service and cost code is offered for its work."
            some="Only services and costs of these are offered for its work; the others say why they are not."
          />
        </div>
      </Section>
    </>
  );
}

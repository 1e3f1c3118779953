import type { Pricer } from '@half-penny/core/billing';
import type { Seller, Workspace } from '@half-penny/core/model';
import { currencyCodes } from '@half-penny/core/money';
import { readLength, showLength } from '@half-penny/core/time';
import { useChanges } from '../../data/session';
import { SavedField } from '../../parts/field';
import { Section } from '../../parts/page';
import { PlaceFields } from '../../parts/place-fields';
import { SavedSelect } from '../../parts/select';
import { Logo } from './logo';
import { zones } from '../../parts/zones';

/** Who invoices: what stands at the head of every invoice. */
export function Studio({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const { workspace } = pricer.book;
  const save = (fields: Partial<Omit<Workspace, 'id'>>) => run('workspace.edit', fields);
  return (
    <>
      <div className="mb-8 grid max-w-3xl gap-4 md:grid-cols-2">
        <Logo workspace={workspace} />
        <SavedField
          label="Studio"
          value={workspace.name}
          save={(name) => save({ name })}
          hint="Stands at the head of invoices."
        />
        <SavedField
          label="E-mail"
          inputMode="email"
          value={workspace.email}
          save={(email) => save({ email })}
          hint="Below the address, for example accounts@saltmere-lighting.example."
        />
        <SavedField
          label="Address"
          lines={4}
          value={workspace.address}
          save={(address) => save({ address })}
          hint="Line by line, as it stands at the head of invoices."
        />
        <SavedField
          label="How to pay"
          lines={4}
          value={workspace.paymentDetails}
          save={(paymentDetails) => save({ paymentDetails })}
          hint="Printed below the total; accounts by currency are in Setup → Invoicing."
        />
        <SavedField
          label="Tax number"
          value={workspace.taxNumber}
          save={(taxNumber) => save({ taxNumber })}
          hint="At the head of invoices, for example GB 999 9999 73."
        />
        <SavedField
          label="Company number"
          value={workspace.companyNumber}
          save={(companyNumber) => save({ companyNumber })}
          hint="Where the studio is a registered company."
        />
        <SavedField
          label="Registered office"
          lines={2}
          value={workspace.registeredOffice}
          save={(registeredOffice) => save({ registeredOffice })}
          hint="If it is not the address above."
        />
        <SavedSelect
          label="Currency"
          value={workspace.currency}
          save={(currency) => save({ currency })}
          options={currencyCodes.map((code) => [code, code] as const)}
          hint="Offered for new clients, and used for the studio’s own card."
        />
        <SavedSelect
          label="Time zone"
          value={workspace.zone}
          save={(zone) => save({ zone })}
          options={zones(workspace.zone)}
          hint="Decides the date of invoices."
        />
        <SavedField
          label="Length of a day that is sold as a day"
          value={showLength(workspace.daySeconds)}
          save={async (text) => save({ daySeconds: readLength(text).seconds })}
          hint="A day rate of 585.00 at 7:30 makes 78.00 an hour."
        />
      </div>
      <AsSeller workspace={workspace} />
    </>
  );
}

/** What e-invoices say of the studio beyond what paper does. */
function AsSeller({ workspace }: { workspace: Workspace }) {
  const { run } = useChanges();
  const { asSeller } = workspace;
  const save = (fields: Partial<Seller>) => run('workspace.edit', { asSeller: fields });
  return (
    <Section title="For e-invoices">
      <div className="grid max-w-3xl gap-4 border-t border-ink px-2 pt-3 md:grid-cols-2">
        <PlaceFields value={asSeller} save={save} />
        <SavedField
          label="Who answers questions"
          value={asSeller?.contact ?? ''}
          placeholder={workspace.name}
          save={(text) => save({ contact: text.trim() })}
        />
        <SavedField
          label="Telephone for questions"
          value={asSeller?.telephone ?? ''}
          save={(text) => save({ telephone: text.trim() })}
        />
      </div>
    </Section>
  );
}

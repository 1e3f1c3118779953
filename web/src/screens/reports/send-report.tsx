import type { Pricer } from '@half-penny/core/billing';
import type { ReportResult } from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import { useState } from 'react';
import { composeReport } from '../../data/letters';
import { useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { LetterDialog } from '../../parts/letter-dialog';
import { SelectField } from '../../parts/select';

interface SendReportProps {
  pricer: Pricer;
  answer: ReportResult;
  title: string;
  note: string;
  today: Day;
  onClose: () => void;
}

/** A report as a letter to a client: whose it is, where the report does not say so itself, and then the letter. */
export function SendReport({ pricer, answer, title, note, today, onClose }: SendReportProps) {
  const { memberId } = useSession();
  const only = onlyClient(answer);
  const [clientId, setClientId] = useState(only ?? '');
  const [chosen, setChosen] = useState(only !== null);
  const client = pricer.client.get(clientId);
  if (chosen && client) {
    const letter = composeReport(pricer, client, { answer, title, note, today, memberId });
    return <LetterDialog pricer={pricer} letter={letter} frozen={null} onClose={onClose} />;
  }
  const clients = pricer.book.clients.filter((each) => !each.archived);
  return (
    <Dialog
      open
      onClose={onClose}
      title="To which client"
      about="This report is not narrowed to one client: whoever it goes to sees what stands in it of the others as well."
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          setChosen(true);
        }}
      >
        <SelectField
          label="Client"
          value={clientId}
          options={[['', 'Choose a client'], ...clients.map(({ id, name }) => [id, name] as const)]}
          onPick={setClientId}
        />
        <Button type="submit" kind="main" className="self-end" disabled={clientId === ''}>
          Write the letter
        </Button>
      </form>
    </Dialog>
  );
}

/** The client that all of a report is of; null where it is of several. */
function onlyClient({ definition }: ReportResult): string | null {
  const keys = definition.filters.find((each) => each.field === 'client' && !each.without)?.keys ?? [];
  return keys.length === 1 ? keys[0]! : null;
}

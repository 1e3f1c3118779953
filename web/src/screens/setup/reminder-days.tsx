import { REMINDER_DAYS, type Pricer } from '@half-penny/core/billing';
import { useChanges } from '../../data/session';
import { SavedField } from '../../parts/field';
import { Section } from '../../parts/page';
import { readReminderDays } from '../../parts/reminder-days';

/** After how many days clients are reminded. */
export function ReminderDays({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const days = pricer.book.workspace.reminders ?? REMINDER_DAYS;
  return (
    <Section title="Reminders">
      <div className="max-w-md border-t border-ink px-2 pt-3">
        <SavedField
          label="Days past the due day"
          value={days.join(', ')}
          save={(typed) => run('workspace.edit', { reminders: readReminderDays(typed) })}
          hint="For the first, the second and the last reminder. A client may have its own, on its page. Empty: nobody is reminded."
        />
      </div>
    </Section>
  );
}
